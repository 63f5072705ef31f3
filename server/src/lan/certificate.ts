import { X509Certificate } from 'node:crypto';
import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { isIP } from 'node:net';
import { join } from 'node:path';
import { generate } from 'selfsigned';

export interface Certificate {
  readonly key: string;
  readonly cert: string;
}

const YEARS = 2;
const RENEW_BEFORE_MS = 30 * 86_400_000;

/**
 * The certificate of this kitchen, made once for its addresses and kept in the data folder; made anew when it runs out or an address
 * is new.
 */
export async function certificateIn(folder: string, names: readonly string[], nowMs: number): Promise<Certificate> {
  const [keyFile, certFile] = [join(folder, 'key.pem'), join(folder, 'certificate.pem')];
  if (existsSync(keyFile) && existsSync(certFile)) {
    const kept = { key: readFileSync(keyFile, 'utf8'), cert: readFileSync(certFile, 'utf8') };
    if (covers(kept.cert, names, nowMs)) return kept;
  }
  const end = new Date(nowMs);
  end.setFullYear(end.getFullYear() + YEARS);
  const made = await generate([{ name: 'commonName', value: 'Kestfog' }], {
    keyType: 'ec',
    algorithm: 'sha256',
    notBeforeDate: new Date(nowMs - 86_400_000),
    notAfterDate: end,
    extensions: [
      { name: 'basicConstraints', cA: false },
      { name: 'subjectAltName', altNames: names.map((n) => (isIP(n) ? { type: 7, ip: n } : { type: 2, value: n })) },
    ],
  });
  mkdirSync(folder, { recursive: true, mode: 0o700 });
  writeFileSync(keyFile, made.private, { mode: 0o600 });
  writeFileSync(certFile, made.cert, { mode: 0o644 });
  return { key: made.private, cert: made.cert };
}

function covers(cert: string, names: readonly string[], nowMs: number): boolean {
  try {
    const x = new X509Certificate(cert);
    return Date.parse(x.validTo) - nowMs > RENEW_BEFORE_MS && names.every((n) => (isIP(n) ? x.checkIP(n) : x.checkHost(n)) !== undefined);
  } catch {
    return false;
  }
}
