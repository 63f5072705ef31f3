import { X509Certificate } from 'node:crypto';
import { mkdtempSync, rmSync, statSync, writeFileSync } from 'node:fs';
import https from 'node:https';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import request from 'supertest';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { certificateIn } from '../src/lan/certificate.js';
import { isPass, isPassphrase, passFor, secretsIn } from '../src/lan/device-pass.js';
import { firstLanAddress, prepareLan } from '../src/lan/lan.js';
import { type Started, startApp } from './harness.js';

const folder = mkdtempSync(join(tmpdir(), 'kestfog-lan-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));
const NOW = Date.parse('2026-06-04T12:00:00Z');

describe('what the kitchen’s network takes', () => {
  it('a certificate is made once for its names, kept private, and made anew when it runs out or an address is new', async () => {
    const own = join(folder, 'a');
    const first = await certificateIn(own, ['192.168.1.20', 'kestfog.test'], NOW);
    const x = new X509Certificate(first.cert);
    expect([x.checkIP('192.168.1.20'), x.checkHost('kestfog.test'), x.checkHost('elsewhere.test')]).toEqual([
      '192.168.1.20',
      'kestfog.test',
      undefined,
    ]);
    expect(statSync(join(own, 'key.pem')).mode & 0o077).toBe(0);
    expect(await certificateIn(own, ['192.168.1.20'], NOW + 86_400_000)).toEqual(first);
    expect((await certificateIn(own, ['192.168.1.21'], NOW)).cert).not.toBe(first.cert);
    const late = await certificateIn(own, ['192.168.1.21'], NOW + 3 * 365 * 86_400_000);
    expect(Date.parse(new X509Certificate(late.cert).validTo)).toBeGreaterThan(NOW + 4 * 365 * 86_400_000);
    writeFileSync(join(own, 'certificate.pem'), 'spoilt');
    expect(new X509Certificate((await certificateIn(own, ['192.168.1.21'], NOW)).cert).checkIP('192.168.1.21')).toBe('192.168.1.21');
  });
  it('a passphrase is made once, typed as one likes, and its passes cannot be made up, altered or kept for ever', () => {
    const secrets = secretsIn(join(folder, 'b'));
    expect(secretsIn(join(folder, 'b'))).toEqual(secrets);
    expect(secrets.passphrase).toMatch(/^[a-z2-9]{4}(-[a-z2-9]{4}){2}$/);
    expect(isPassphrase(secrets, secrets.passphrase.toUpperCase().replaceAll('-', ' '))).toBe(true);
    expect(isPassphrase(secrets, `${secrets.passphrase}x`)).toBe(false);
    // f. A cookie of the same length in letters, and of more bytes.
    expect(isPass(secrets, `1.${'é'.repeat(64)}`, NOW)).toBe(false);
    const pass = passFor(secrets, NOW);
    expect([isPass(secrets, pass, NOW + 1000), isPass(secrets, pass, NOW + 365 * 86_400_000)]).toEqual([true, false]);
    for (const bad of [undefined, '', '1.2', pass.replace(/^\d/, '9'), `${NOW}.${'0'.repeat(64)}`])
      expect(isPass(secrets, bad, NOW)).toBe(false);
    expect(isPass({ ...secrets, signingKey: '00'.repeat(32) }, pass, NOW)).toBe(false);
  });
  it('the first address others can reach is taken; without a network there is none', () => {
    const of = (address: string, internal: boolean) => [{ address, internal, family: 'IPv4' as const, netmask: '', mac: '', cidr: null }];
    expect(firstLanAddress({ lo: of('127.0.0.1', true), eth: of('192.168.1.20', false) })).toBe('192.168.1.20');
    expect(firstLanAddress({ lo: of('127.0.0.1', true) })).toBeNull();
  });
});

describe('Kestfog in the kitchen', () => {
  let s: Started;
  let passphrase: string;
  beforeAll(async () => {
    const lan = await prepareLan(folder, '127.0.0.1', 0, ['kestfog.test'], false);
    passphrase = lan.secrets.passphrase;
    s = await startApp({ lan });
  });
  afterAll(() => s.stop());
  // Only its own certificate is trusted, by its own name: what a browser does once asked to.
  const agent = async (host: string) =>
    new https.Agent({
      ca: (await prepareLan(folder, '127.0.0.1', 0, ['kestfog.test'], false)).tls?.cert ?? '',
      ...(host === 'kestfog.test' ? {} : { checkServerIdentity: () => undefined }),
    });
  const call = async (path: string, cookie = '', body?: object, host = 'kestfog.test') => {
    const make = body === undefined ? request(s.url).get(`/api${path}`) : request(s.url).post(`/api${path}`).send(body);
    return make
      .agent(await agent(host))
      .set('Host', host)
      .set('Cookie', cookie);
  };
  it('tells a device that is not known nothing but that it has to ask', async () => {
    expect(s.url).toMatch(/^https:/);
    for (const path of [
      '/orders',
      '/designs',
      '/runs/00000000-0000-4000-8000-000000000000/stream',
      '/clock',
      '/health',
      '/DEVICES/../orders',
    ])
      expect((await call(path)).body).toMatchObject({ code: 'unknown-device' });
    expect((await call('/devices')).body).toEqual({ lan: true, known: false });
    expect((await call('/orders', '', undefined, 'evil.test')).body).toMatchObject({ code: 'host' });
  });
  it('lets it in with the passphrase, once, and shows it the way for the next', async () => {
    expect((await call('/devices', '', { passphrase: 'nonsense' })).body).toMatchObject({ code: 'wrong-passphrase' });
    const let_in = await call('/devices', '', { passphrase });
    expect(let_in.body).toEqual({ lan: true, known: true });
    const cookie = String(let_in.headers['set-cookie']);
    expect(cookie).toMatch(/HttpOnly/);
    expect(cookie).toMatch(/Secure/);
    expect(cookie).toMatch(/SameSite=Strict/);
    const pass = cookie.split(';')[0] as string;
    expect((await call('/orders', pass)).status).toBe(200);
    const known = (await call('/devices', pass)).body as { address: string; qr: string };
    expect(known.address).toBe('https://127.0.0.1:0');
    expect(known.qr).toMatch(/^<svg/);
  });
  it('makes whoever guesses wait', async () => {
    let last = 0;
    for (let i = 0; i < 7; i++) last = (await call('/devices', '', { passphrase: `guess ${i}` })).status;
    expect(last).toBe(429);
    expect((await call('/devices', '', { passphrase })).status).toBe(429);
  });
});

describe('Kestfog on its own machine', () => {
  let s: Started;
  beforeAll(async () => {
    s = await startApp();
  });
  afterAll(() => s.stop());
  it('asks nobody, and says that nobody else can reach it', async () => {
    expect((await request(s.url).get('/api/devices')).body).toEqual({ lan: false });
    expect((await request(s.url).post('/api/devices').send({ passphrase: 'x' })).body).toEqual({ lan: false });
    expect((await request(s.url).get('/api/orders')).status).toBe(200);
  });
});
