import { createServer, type Server } from 'node:http';
import { msg } from '@kestfog/core/words';
import { fingerprintOf } from './certificate.js';
import { addressBy, type Lan } from './lan.js';

export const AUTHORITY_FILE = '/kestfog-kitchen.crt';

/**
 * A page over plain http for a device that does not trust the kitchen yet: what to install, how on the usual systems, and where to go
 * then. It has the certificate, which is no secret, and nothing else; whoever doubts what came over the air compares the fingerprint with
 * the one on the screen Kestfog was started on.
 */
export function door(lan: Lan, isNameHeard: boolean): Server {
  return createServer((req, res) => {
    res.setHeader('X-Content-Type-Options', 'nosniff');
    res.setHeader('Content-Security-Policy', "default-src 'none'; style-src 'unsafe-inline'; frame-ancestors 'none'; base-uri 'none'");
    res.setHeader('Cache-Control', 'no-store');
    const path = (req.url ?? '/').split('?')[0];
    if (req.method !== 'GET' && req.method !== 'HEAD') return void res.writeHead(405, { Allow: 'GET, HEAD' }).end();
    if (!lan.tls) return void res.writeHead(404).end();
    if (path === AUTHORITY_FILE) {
      res.writeHead(200, {
        'Content-Type': 'application/x-x509-ca-cert',
        'Content-Disposition': 'attachment; filename="kestfog-kitchen.crt"',
      });
      return void res.end(lan.tls.authority);
    }
    if (path !== '/') return void res.writeHead(302, { Location: '/' }).end();
    res.writeHead(200, { 'Content-Type': 'text/html; charset=utf-8' });
    res.end(doorPage(lan, isNameHeard ? lan.localName : null, fingerprintOf(lan.tls.authority)));
  });
}

const escaped = (text: string) => text.replace(/[&<>"']/g, (c) => `&#${c.charCodeAt(0)};`);

/** How each of the usual systems takes a certificate in, by the words it has in its own settings. */
const WAYS: readonly (readonly [string, readonly string[]])[] = [
  [
    msg`iOS, iPadOS`,
    [
      msg`Take the certificate with the system’s own browser and allow the download.`,
      msg`Settings › General › VPN & Device Management: the Kestfog kitchen › Install.`,
      msg`Settings › General › About › Certificate Trust Settings: switch the Kestfog kitchen on.`,
    ],
  ],
  [
    'Android',
    [
      msg`Download the certificate.`,
      msg`Settings: look for “CA certificate” (under Security, More security settings, Encryption & credentials) and choose it.`,
      msg`It warns that others could read along: this certificate is good for this kitchen’s addresses alone.`,
    ],
  ],
  [
    'Windows',
    [msg`Open the download › Install Certificate › Current User.`, msg`Choose the store “Trusted Root Certification Authorities”.`],
  ],
  [
    'macOS',
    [
      msg`Open the download: Keychain Access asks where to; login is right.`,
      msg`Open it there › Trust › When using this certificate: Always Trust.`,
    ],
  ],
  [msg`Linux, ChromeOS`, [msg`In the browser: Settings › Privacy and security › Security › Manage certificates › Authorities › Import.`]],
  [
    msg`Browsers with a store of their own`,
    [msg`Settings › Privacy & Security › View Certificates › Authorities › Import: trust it for websites.`],
  ],
];

function doorPage(lan: Lan, name: string | null, fingerprint: string): string {
  const byName = name === null ? null : addressBy(name, lan);
  const ways = WAYS.map(
    ([system, steps]) =>
      `<details><summary>${escaped(system)}</summary><ol>${steps.map((s) => `<li>${escaped(s)}</li>`).join('')}</ol></details>`,
  ).join('\n');
  return `<!doctype html>
<html lang="${escaped(globalThis.kestfogWords?.language ?? 'en')}">
<head>
<meta charset="utf-8">
<meta name="viewport" content="width=device-width, initial-scale=1">
<title>${escaped(msg`Kestfog: let this device in`)}</title>
<style>
:root { color-scheme: light dark; font: 1.25rem/1.5 system-ui, sans-serif; }
body { max-width: 44rem; margin: 0 auto; padding: 1.5rem; }
h1 { font-size: 2rem; line-height: 1.2; }
h2 { font-size: 1.5rem; margin: 2rem 0 0.5rem; }
a.go { display: block; box-sizing: border-box; min-height: 4rem; padding: 1rem 1.25rem; border: 2px solid; border-radius: 0.75rem; font-weight: 600; text-align: center; color: inherit; overflow-wrap: anywhere; }
a.go + p { margin-top: 0.5rem; }
summary { min-height: 2.75rem; padding: 0.4rem 0; font-weight: 600; cursor: pointer; }
code { font-size: 1rem; }
</style>
</head>
<body>
<main>
<h1>${escaped(msg`Let this device into the kitchen`)}</h1>
<p>${escaped(msg`Kestfog runs on a machine of this house, so no office in the world vouches for it. Install the kitchen’s own certificate
  once, and the page stays awake, opens without the network and asks nothing more.`)}</p>
<h2>${escaped(msg`1. Take the certificate`)}</h2>
<a class="go" href="${AUTHORITY_FILE}">${escaped(msg`Take the kitchen’s certificate`)}</a>
<p>${escaped(msg`It vouches for addresses within a house alone, never for a shop or a bank. Before you trust it, compare its fingerprint
  (SHA-256) with the one on the screen Kestfog was started on:`)}</p>
<p><code>${escaped(fingerprint).replaceAll(':', ':<wbr>')}</code></p>
<h2>${escaped(msg`2. Trust it`)}</h2>
${ways}
<h2>${escaped(msg`3. Go in`)}</h2>
${
  byName === null
    ? ''
    : `<a class="go" href="${escaped(byName)}">${escaped(byName)}</a>
<p>${escaped(msg`This name stays when the network gives the machine another address. If nothing opens there, this network does not pass
  names on; take the address:`)}</p>
`
}<a class="go" href="${escaped(lan.address)}">${escaped(lan.address)}</a>
<p>${escaped(msg`It asks for the passphrase once. Trusting the kitchen is undone where it was done, in the same settings.`)}</p>
</main>
</body>
</html>
`;
}
