import { type ChildProcess, spawn } from 'node:child_process';
import { createHash, X509Certificate } from 'node:crypto';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { type BrowserContext, chromium, expect, test } from '@playwright/test';
import { CHROMIUM } from './chromium.js';
import { orderBody } from './support.js';

const ROOT = new URL('../../', import.meta.url).pathname;
const DATA = new URL(`../../node_modules/.cache/kestfog-e2e-lan-${process.pid}`, import.meta.url).pathname;
const PORT = 3961;
const NAME = 'kestfog.test';

let running: ChildProcess | undefined;
let context: BrowserContext | undefined;
const profiles: string[] = [];

/** As a user starts it in the kitchen; resolves with what it printed once it is ready. */
async function start(...more: string[]): Promise<string> {
  const child = spawn('bash', ['bin/start.sh', '--lan', '127.0.0.1', '--port', String(PORT), '--empty', ...more], {
    cwd: ROOT,
    env: {
      ...process.env,
      KESTFOG_DATA: DATA,
      KESTFOG_LAN_NAMES: NAME,
      KESTFOG_CLOCK: 'simulated',
      KESTFOG_CLOCK_START: '2026-06-05T13:00:00Z',
      TZ: 'UTC',
    },
  });
  running = child;
  return new Promise((resolve, reject) => {
    let text = '';
    const on = (d: Buffer) => {
      text += d.toString();
      if (text.includes('is ready')) resolve(text);
    };
    child.stdout.on('data', on);
    child.stderr.on('data', on);
    child.on('exit', () => reject(new Error(text)));
  });
}

async function stop(): Promise<void> {
  await context?.close();
  context = undefined;
  const child = running;
  running = undefined;
  if (!child || child.exitCode !== null) return;
  const gone = new Promise((done) => child.once('exit', done));
  child.kill('SIGTERM');
  await gone;
}

/** A browser in which the name leads to this machine, and the kitchen's certificate was trusted, if there is one. */
async function browse(certificate: string | null) {
  const profile = mkdtempSync(join(tmpdir(), 'kestfog-browser-'));
  profiles.push(profile);
  const spki = certificate
    ? createHash('sha256')
        .update(new X509Certificate(certificate).publicKey.export({ type: 'spki', format: 'der' }))
        .digest('base64')
    : '';
  context = await chromium.launchPersistentContext(profile, {
    executablePath: CHROMIUM.executablePath,
    viewport: { width: 1280, height: 800 },
    args: [
      ...CHROMIUM.args,
      `--host-resolver-rules=MAP ${NAME} 127.0.0.1`,
      ...(spki ? [`--ignore-certificate-errors-spki-list=${spki}`] : []),
    ],
  });
  return context.pages()[0] ?? (await context.newPage());
}

const enter = async (page: import('@playwright/test').Page, passphrase: string) => {
  await page.getByLabel(/The passphrase/).fill(passphrase);
  await page.getByRole('button', { name: 'Let this device in' }).click();
  await expect(page.getByRole('heading', { name: 'Orders' })).toBeVisible();
};

/** A run of one small order, made through the page's own session. */
const makeRun = (page: import('@playwright/test').Page, svg: string) =>
  page.evaluate(
    async ([drawing, order]) => {
      const post = async (path: string, body: object) =>
        (await (
          await fetch(`/api${path}`, { method: 'POST', headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) })
        ).json()) as {
          id: string;
        };
      const design = await post('/designs', { name: 'Mackerel', svg: drawing });
      const made = await post('/orders', { ...order, designs: [{ designId: design.id, count: 4 }] });
      await post(`/orders/${made.id}/plan`, {});
      return (await post(`/orders/${made.id}/run`, {})).id;
    },
    [svg, orderBody({ name: 'In the kitchen', designs: [], trays: [{ id: 'A', places: 4 }] })] as const,
  );

test.describe('Kestfog in the kitchen’s network', () => {
  test.setTimeout(120_000);
  test.afterEach(stop);
  test.afterAll(() => {
    for (const folder of [DATA, ...profiles]) rmSync(folder, { recursive: true, force: true });
  });
  const mackerel = readFileSync(new URL('../../server/demo/mackerel.svg', import.meta.url), 'utf8');

  test('over its own certificate, trusted once: a passphrase, the way in for others, and the bench reloads without the network', async () => {
    const said = await start();
    expect(said).toContain(`https://127.0.0.1:${PORT}`);
    const passphrase = /Passphrase, once on each device: (\S+)/.exec(said)?.[1] as string;
    const page = await browse(readFileSync(join(DATA, 'lan', 'certificate.pem'), 'utf8'));
    await page.goto(`https://${NAME}:${PORT}/`);
    await page.getByLabel(/The passphrase/).fill('not it');
    await page.getByRole('button', { name: 'Let this device in' }).click();
    await expect(page.getByRole('alert')).toContainText('That is not the passphrase');
    await enter(page, passphrase);
    await page.getByRole('button', { name: 'other devices' }).click();
    await expect(page.getByRole('img', { name: /QR code of https/ })).toBeVisible();
    await page.getByRole('button', { name: 'close' }).click();
    const runId = await makeRun(page, mackerel);
    await page.goto(`https://${NAME}:${PORT}/runs/${runId}`);
    await page.evaluate(async () => {
      await navigator.serviceWorker.ready;
    });
    await expect(page.getByRole('button', { name: 'Begin the run' })).toBeVisible();
    await page.keyboard.press('Space');
    // It is planned for another day: that is asked about first.
    await page.getByRole('button', { name: 'Begin now all the same' }).click();
    await expect(page.getByRole('button', { name: 'Done' })).toBeVisible();
    await expect(page.getByText(/not a secure one/)).toBeHidden();
    await expect(page.getByText(/not saved yet/)).toBeHidden();
    await context?.setOffline(true);
    await page.reload();
    await expect(page.getByRole('button', { name: 'Done' })).toBeVisible();
    await page.waitForTimeout(450);
    await page.keyboard.press('Space');
    await expect(page.getByText(/1 of \d+ done/)).toBeVisible();
    await expect(page.getByText('1 tap not saved yet, trying again')).toBeVisible();
    await context?.setOffline(false);
    await expect(page.getByText(/not saved yet/)).toBeHidden({ timeout: 20_000 });
  });

  test('over plain http it says what is missing, and runs all the same', async () => {
    const said = await start('--plain');
    const passphrase = /Passphrase, once on each device: (\S+)/.exec(said)?.[1] as string;
    const page = await browse(null);
    await page.goto(`http://${NAME}:${PORT}/`);
    await enter(page, passphrase);
    const runId = await makeRun(page, mackerel);
    await page.goto(`http://${NAME}:${PORT}/runs/${runId}`);
    await expect(
      page.getByText(/not a secure one: the screen may go to sleep, and a reload without the network shows nothing/),
    ).toBeVisible();
    expect(await page.evaluate(() => isSecureContext)).toBe(false);
    await expect(page.getByRole('button', { name: 'Begin the run' })).toBeVisible();
    await page.keyboard.press('Space');
    // It is planned for another day: that is asked about first.
    await page.getByRole('button', { name: 'Begin now all the same' }).click();
    await expect(page.getByRole('button', { name: 'Done' })).toBeVisible();
    await expect(page.getByText(/not saved yet/)).toBeHidden();
  });
});
