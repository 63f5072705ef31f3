import { X509Certificate } from 'node:crypto';
import { mkdtempSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs';
import type { Server } from 'node:http';
import https from 'node:https';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { connect, createServer } from 'node:tls';
import type { DeviceView, LanView, NewPassphrase } from '@kestfog/core/wire';
import mdns from 'multicast-dns';
import request from 'supertest';
import { afterAll, beforeAll, describe, expect, it, vi } from 'vitest';
import { announce, asLocalName } from '../src/lan/announce.js';
import { type Certificates, certificatesIn, fingerprintOf } from '../src/lan/certificate.js';
import { DevicesService } from '../src/lan/devices.service.js';
import { AUTHORITY_FILE, door } from '../src/lan/door.js';
import { firstLanAddress, type Lan, type LanWishes, prepareLan } from '../src/lan/lan.js';
import { isPassphrase, madePassphrase } from '../src/lan/passphrase.js';
import { type Started, startApp } from './harness.js';

const folder = mkdtempSync(join(tmpdir(), 'kestfog-lan-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));
const NOW = Date.now();
const DAY_MS = 86_400_000;
const wishes = (more: Partial<LanWishes> = {}): LanWishes => ({
  dataFolder: folder,
  host: '127.0.0.1',
  port: 4000,
  extraNames: ['kestfog.test'],
  localName: 'kestfog.local',
  isPlain: false,
  ...more,
});

/** What TLS says to whoever trusts the authority alone and asks for `name`: null where it is content. */
const refusalOf = ({ leaf, authority }: Certificates, name: string): Promise<string | null> =>
  new Promise((told) => {
    const server = createServer(leaf, (socket) => socket.end()).listen(0, '127.0.0.1', () => {
      const socket = connect({ port: (server.address() as AddressInfo).port, host: '127.0.0.1', ca: authority, servername: name });
      const end = (why: string | null) => {
        socket.destroy();
        server.close();
        told(why);
      };
      socket.on('secureConnect', () => end(null));
      socket.on('error', (e) => end(e.message));
    });
    server.on('tlsClientError', () => undefined);
  });

describe('the certificates of a kitchen', () => {
  it('an authority that is installed once, and a leaf it signs: for servers alone, with names and address, kept private', async () => {
    const own = join(folder, 'a');
    const made = await certificatesIn(own, ['192.168.1.20', 'kestfog.local', 'kestfog.test'], NOW);
    const leaf = new X509Certificate(made.leaf.cert);
    expect([leaf.checkIP('192.168.1.20'), leaf.checkHost('kestfog.test'), leaf.checkHost('elsewhere.test'), leaf.ca]).toEqual([
      '192.168.1.20',
      'kestfog.test',
      undefined,
      false,
    ]);
    // RFC 5280, 4.2.1.12: id-kp-serverAuth.
    expect(leaf.keyUsage).toEqual(['1.3.6.1.5.5.7.3.1']);
    expect(Date.parse(leaf.validTo) - Date.parse(leaf.validFrom)).toBeLessThanOrEqual(398 * DAY_MS);
    const authority = new X509Certificate(made.authority);
    expect([authority.ca, leaf.checkIssued(authority)]).toEqual([true, true]);
    expect(fingerprintOf(made.authority)).toMatch(/^([0-9A-F]{2}:){31}[0-9A-F]{2}$/);
    for (const file of ['authority-key.pem', 'key.pem']) expect(statSync(join(own, file)).mode & 0o077).toBe(0);
    expect(await refusalOf(made, 'kestfog.test')).toBeNull();
    expect(await refusalOf(made, 'elsewhere.test')).toContain('does not match certificate');
  });
  it('the leaf is made anew for another address and near its end, under the same authority: no device is left behind', async () => {
    const own = join(folder, 'b');
    const first = await certificatesIn(own, ['192.168.1.20', 'kestfog.local'], NOW);
    expect(await certificatesIn(own, ['192.168.1.20'], NOW + DAY_MS)).toEqual(first);
    for (const [names, at] of [
      [['192.168.7.9', 'kestfog.local'], NOW],
      [['192.168.7.9'], NOW + 340 * DAY_MS],
    ] as const) {
      const next = await certificatesIn(own, names, at);
      expect(next.authority).toBe(first.authority);
      expect(new X509Certificate(next.leaf.cert).checkIP('192.168.7.9')).toBe('192.168.7.9');
      expect(Date.parse(new X509Certificate(next.leaf.cert).validTo)).toBeGreaterThan(at + 300 * DAY_MS);
    }
    // One that is spoilt, one whose key is another's, and one an earlier release had signed by itself.
    for (const spoil of ['spoilt', readFileSync(join(folder, 'a', 'certificate.pem'), 'utf8')]) {
      writeFileSync(join(own, 'certificate.pem'), spoil);
      expect((await certificatesIn(own, ['192.168.7.9'], NOW)).authority).toBe(first.authority);
    }
    expect((await certificatesIn(own, ['192.168.7.9'], NOW + 19 * 365 * DAY_MS)).authority).not.toBe(first.authority);
  });
  it('the authority vouches for addresses within a house alone; for one beyond it has to be made anew', async () => {
    const own = join(folder, 'c');
    const house = await certificatesIn(own, ['10.1.2.3', 'kestfog.local', '127.0.0.1'], NOW);
    const beyond = await certificatesIn(own, ['kestfog.test', '203.0.113.7'], NOW);
    expect(beyond.authority).not.toBe(house.authority);
    expect(await refusalOf(beyond, 'kestfog.test')).toBeNull();
    // Somebody has the authority's key, and signs for a name of the world with it.
    writeFileSync(join(own, 'authority-names.json'), JSON.stringify(['shop.test', 'kestfog.test', '203.0.113.7']));
    const posing = await certificatesIn(own, ['shop.test'], NOW);
    expect(posing.authority).toBe(beyond.authority);
    expect(await refusalOf(posing, 'shop.test')).toContain('permitted subtree violation');
  });
});

describe('the way in', () => {
  it('a passphrase is typed as one likes, and not guessed', () => {
    const made = madePassphrase();
    expect(made).toMatch(/^[a-z2-9]{4}(-[a-z2-9]{4}){2}$/);
    expect(isPassphrase(made, made.toUpperCase().replaceAll('-', ' '))).toBe(true);
    for (const wrong of ['', `${made}x`, 'é'.repeat(12), madePassphrase()]) expect(isPassphrase(made, wrong)).toBe(false);
  });
  it('the first address others can reach is taken; 0.0.0.0 answers to all there are, also to those that come later', async () => {
    const of = (address: string, internal: boolean) => [{ address, internal, family: 'IPv4' as const, netmask: '', mac: '', cidr: null }];
    expect(firstLanAddress({ lo: of('127.0.0.1', true), eth: of('192.168.1.20', false) })).toBe('192.168.1.20');
    expect(firstLanAddress({ lo: of('127.0.0.1', true) })).toBeNull();
    let there = ['192.168.1.20', '10.0.0.4'];
    const lan = await prepareLan(wishes({ host: '0.0.0.0' }), () => there);
    expect(lan.address).toBe('https://192.168.1.20:4000');
    expect(lan.names()).toEqual(['192.168.1.20', '10.0.0.4', '127.0.0.1', 'localhost', 'kestfog.local', 'kestfog.test']);
    there = ['192.168.1.77'];
    expect(lan.names()).toContain('192.168.1.77');
    expect([lan.address, lan.door?.address]).toEqual(['https://192.168.1.77:4000', 'http://192.168.1.77:4001']);
  });
  it('the door tells over plain http what to trust and has the certificate, and nothing else', async () => {
    const lan = await prepareLan(wishes());
    const open = (isHeard: boolean): Promise<Server> => {
      const server = door(lan, isHeard);
      return new Promise((opened) => server.listen(0, '127.0.0.1', () => opened(server)));
    };
    const server = await open(true);
    const page = await request(server).get('/').expect(200);
    expect(page.text.replaceAll('<wbr>', '')).toContain(fingerprintOf(lan.tls?.authority ?? ''));
    expect(page.text).toContain('href="https://kestfog.local:4000"');
    expect(page.text).toContain('href="https://127.0.0.1:4000"');
    const file = await request(server)
      .get(AUTHORITY_FILE)
      .buffer(true)
      .parse((res, done) => {
        let text = '';
        res.on('data', (d: Buffer) => {
          text += d.toString();
        });
        res.on('end', () => done(null, text));
      });
    expect(file.headers['content-type']).toBe('application/x-x509-ca-cert');
    expect(file.body).toBe(lan.tls?.authority);
    expect((await request(server).get('/api/orders')).headers['location']).toBe('/');
    expect((await request(server).post('/')).status).toBe(405);
    server.close();
    const unheard = await open(false);
    expect((await request(unheard).get('/')).text).not.toContain('kestfog.local');
    unheard.close();
  });
  it('its name is answered for on the network, and left to whoever has it already', async () => {
    const lan = { localName: 'kestfog-under-test.local', names: () => ['127.0.0.1'] } as unknown as Lan;
    const heard = await announce(lan, '127.0.0.1');
    expect(heard?.name).toBe('kestfog-under-test.local');
    const asker = mdns({ interface: '127.0.0.1', bind: '0.0.0.0' });
    const answer = new Promise((told) => asker.on('response', ({ answers }) => told(answers[0])));
    asker.query('Kestfog-under-test.local', 'A');
    expect(await answer).toMatchObject({ name: 'kestfog-under-test.local', type: 'A', data: '127.0.0.1' });
    asker.destroy();
    expect(await announce({ ...lan, names: () => ['10.9.9.9'] } as unknown as Lan, '127.0.0.1')).toBeNull();
    heard?.close();
    expect(['Back kitchen', 'kestfog', 'KESTFOG-2.local', '-x', ''].map(asLocalName)).toEqual([
      null,
      'kestfog.local',
      'kestfog-2.local',
      null,
      null,
    ]);
  });
});

describe('Kestfog in the kitchen', () => {
  let s: Started;
  let lan: Lan;
  beforeAll(async () => {
    lan = await prepareLan(wishes({ dataFolder: join(folder, 'kitchen') }));
    s = await startApp({ lan });
  });
  afterAll(() => s.stop());
  const agent = () => new https.Agent({ ca: lan.tls?.authority ?? '', servername: 'kestfog.test' });
  type Body = { code?: string } & Partial<LanView & NewPassphrase> & object;
  const call = async (method: 'get' | 'post' | 'put' | 'delete', path: string, pass = '', body?: object, host = 'kestfog.test') =>
    request(s.url)[method](`/api${path}`).send(body).agent(agent()).set('Host', host).set('Cookie', pass);
  const let_in = async (name: string) => {
    const answer = await call('post', '/devices', '', { passphrase: await s.app.get(DevicesService).passphrase(), name });
    expect(answer.body).toEqual({ lan: true, known: true });
    const cookie = String(answer.headers['set-cookie']);
    expect(cookie).toMatch(/^__Host-.*Path=\/; HttpOnly; Secure; SameSite=Strict/);
    return cookie.split(';')[0] as string;
  };
  const known = async (pass: string) => (await call('get', '/devices/known', pass)).body as DeviceView[];

  it('tells a device that is not known nothing but that it has to ask', async () => {
    expect(s.url).toMatch(/^https:/);
    for (const path of [
      '/orders',
      '/designs',
      '/runs/00000000-0000-4000-8000-000000000000/stream',
      '/clock',
      '/devices/known',
      '/DEVICES/../orders',
    ])
      expect([path, (await call('get', path)).body]).toMatchObject([path, { code: 'unknown-device' }]);
    // A cookie of somebody else, and ones no browser sends.
    for (const pass of [
      '__Host-kestfog_device=x',
      '__Host-kestfog_device=%E0%A4%A',
      `__Host-kestfog_device=${'é'.repeat(64)}`,
      'theirs=1; __Host-kestfog_device=',
    ])
      expect([pass, (await call('get', '/orders', pass)).status]).toEqual([pass, 401]);
    expect((await call('get', '/devices')).body).toEqual({ lan: true, known: false });
    expect((await call('get', '/orders', '', undefined, 'evil.test')).body).toMatchObject({ code: 'host' });
  });
  it('lets each in with the passphrase, under a name, and shows it the way for the next', async () => {
    expect((await call('post', '/devices', '', { passphrase: 'nonsense', name: 'tablet' })).body).toMatchObject({
      code: 'wrong-passphrase',
    });
    expect((await call('post', '/devices', '', { passphrase: await s.app.get(DevicesService).passphrase(), name: '  ' })).status).toBe(400);
    const nameless = await call('post', '/devices', '', { passphrase: 'x', name: ' ' });
    expect(nameless.body).toMatchObject({ message: 'name must have 1 to 60 letters.' });
    const pass = await let_in('tablet by the oven');
    const orders = await call('get', '/orders', pass);
    expect([orders.status, orders.headers['cache-control']]).toEqual([200, 'private, no-cache']);
    const way = await call('get', '/devices', pass);
    expect(way.body).toMatchObject({
      address: 'https://127.0.0.1:4000',
      door: 'http://127.0.0.1:4001',
      passphrase: await s.app.get(DevicesService).passphrase(),
      qr: expect.stringMatching(/^<svg/),
    });
    // The pass goes on from there.
    expect(String(way.headers['set-cookie'])).toContain(pass);
    expect(await known(pass)).toMatchObject([{ name: 'tablet by the oven', isThis: true }]);
    expect(await s.query('SELECT 1 FROM "device" WHERE position("passSha256" in $1) > 0', [pass])).toEqual([]);
  });
  it('a pass is renewed while it is used, and ends half a year after', async () => {
    const [{ passSha256 }] = (await s.query('SELECT "passSha256" FROM "device"')) as [{ passSha256: string }];
    const pass = await let_in('lent telephone');
    const seen = async (daysAgo: number) =>
      s.query(`UPDATE "device" SET "seenAt" = now() - make_interval(days => $1) WHERE "passSha256" <> $2`, [daysAgo, passSha256]);
    await seen(170);
    expect((await call('get', '/clock', pass)).status).toBe(200);
    const [{ age }] = (await s.query(`SELECT max(extract(epoch FROM now() - "seenAt"))::float AS age FROM "device"`)) as [{ age: number }];
    expect(age).toBeLessThan(60);
    await seen(181);
    expect((await call('get', '/clock', pass)).status).toBe(401);
    await s.query(`DELETE FROM "device" WHERE "passSha256" <> $1`, [passSha256]);
  });
  it('a device that is lost is shut out at once, also from what it listens to, and the passphrase it knew opens nothing more', async () => {
    const old = await s.app.get(DevicesService).passphrase();
    const told: string[] = [];
    s.app.get(DevicesService).renewed.subscribe((p) => told.push(p));
    const own = await let_in('mine');
    const lost = await let_in('lost');
    const lostId = (await known(own)).find((d) => d.name === 'lost')?.id;
    let ended: Promise<unknown> | undefined;
    await new Promise<void>((begun, failed) => {
      const headers = { Host: 'kestfog.test', Cookie: lost };
      https
        .get(`${s.url}/api/climate/stream`, { agent: agent(), headers }, (res) => {
          ended = new Promise((done) => res.on('error', () => undefined).on('close', done));
          res.once('data', () => begun());
        })
        .on('error', failed);
    });
    await call('put', `/devices/${lostId}`, own, { name: 'left in the van' });
    expect((await known(own)).map((d) => d.name)).toContain('left in the van');
    const shut = await call('delete', `/devices/${lostId}`, own);
    expect(told).toEqual([(shut.body as NewPassphrase).passphrase]);
    expect((shut.body as NewPassphrase).passphrase).toBe(await s.app.get(DevicesService).passphrase());
    expect(await s.app.get(DevicesService).passphrase()).not.toBe(old);
    await ended;
    expect((await call('get', '/orders', lost)).body).toMatchObject({ code: 'unknown-device' });
    expect((await call('get', '/orders', own)).status).toBe(200);
    expect((await call('post', '/devices', '', { passphrase: old, name: 'again' })).body).toMatchObject({ code: 'wrong-passphrase' });
    expect((await call('put', `/devices/${lostId}`, own, { name: 'x' })).status).toBe(404);
  });
  it('says so where the database is away, and lets nobody in meanwhile', async () => {
    const pass = await let_in('tablet');
    const away = vi.spyOn(s.app.get(DevicesService), 'of').mockRejectedValue(Object.assign(new Error('connect'), { code: 'ECONNREFUSED' }));
    const answer = await call('get', '/orders', pass);
    expect([answer.status, answer.body]).toMatchObject([503, { code: 'database' }]);
    away.mockRestore();
    expect((await call('get', '/orders', pass)).status).toBe(200);
  });
  it('makes whoever guesses wait, and lets nobody take all there is', async () => {
    let last: request.Response | undefined;
    for (let i = 0; i < 12; i++) last = await call('post', '/devices', '', { passphrase: `guess ${i}`, name: 'x' });
    expect(last?.body as Body).toMatchObject({ code: 'too-many-tries' });
    expect(Number(last?.headers['retry-after'])).toBeGreaterThan(0);
    expect((await call('post', '/devices', '', { passphrase: await s.app.get(DevicesService).passphrase(), name: 'x' })).status).toBe(429);
  });
});

describe('Kestfog on its own machine', () => {
  let s: Started;
  beforeAll(async () => {
    s = await startApp();
  });
  afterAll(() => s.stop());
  it('asks nobody, says that nobody else can reach it, and counts no requests', async () => {
    expect((await request(s.url).get('/api/devices')).body).toEqual({ lan: false });
    expect((await request(s.url).get('/api/devices/known')).body).toEqual([]);
    for (let i = 0; i < 8; i++)
      expect((await request(s.url).post('/api/devices').send({ passphrase: 'x', name: 'x' })).body).toEqual({ lan: false });
    expect((await request(s.url).delete('/api/devices/00000000-0000-4000-8000-000000000000')).status).toBe(409);
    expect((await request(s.url).get('/api/orders')).status).toBe(200);
  });
});
