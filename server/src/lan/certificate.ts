import 'reflect-metadata';
import { createPrivateKey, randomBytes, webcrypto, X509Certificate } from 'node:crypto';
import { existsSync, mkdirSync, readFileSync, renameSync, writeFileSync } from 'node:fs';
import { BlockList, isIP } from 'node:net';
import { join } from 'node:path';
import { AsnConvert } from '@peculiar/asn1-schema';
import { GeneralName, GeneralSubtree, GeneralSubtrees, id_ce_nameConstraints, NameConstraints } from '@peculiar/asn1-x509';
import {
  AuthorityKeyIdentifierExtension,
  BasicConstraintsExtension,
  ExtendedKeyUsage,
  ExtendedKeyUsageExtension,
  Extension,
  KeyUsageFlags,
  KeyUsagesExtension,
  PemConverter,
  SubjectAlternativeNameExtension,
  SubjectKeyIdentifierExtension,
  X509CertificateGenerator,
  X509Certificate as X509Read,
} from '@peculiar/x509';

export interface Certificate {
  /** PEM */
  readonly key: string;
  readonly cert: string;
}
/** What the kitchen's devices trust, and what Kestfog shows them, which that has signed. */
export interface Certificates {
  /** the kitchen's own authority, PEM; its key never leaves the folder */
  readonly authority: string;
  readonly leaf: Certificate;
}

const KEY = { name: 'ECDSA', namedCurve: 'P-256' } as const;
const SIGNATURE = { name: 'ECDSA', hash: 'SHA-256' } as const;
const DAY_MS = 86_400_000;
/** Installed on every device by hand: it should outlast them. */
const AUTHORITY_DAYS = 20 * 365;
/** Browsers refuse what is valid for longer, also from an authority that was installed by hand: common practice, 398 days at most. */
const LEAF_DAYS = 397;
const RENEW_BEFORE_DAYS = 60;

/** Addresses that stay within a house: RFC 1918, RFC 3927, RFC 4193, RFC 4291 and this machine itself. */
const HOUSE_V4 = ['10.0.0.0/8', '172.16.0.0/12', '192.168.0.0/16', '169.254.0.0/16', '127.0.0.0/8'] as const;
const HOUSE_V6 = ['fc00::/7', 'fe80::/10', '::1/128'] as const;
/** Names that lead to a machine in the same house only (RFC 6762). */
const HOUSE_NAME = 'local';

/**
 * The certificates of this kitchen, kept in `folder`. The authority is made once, and may sign for addresses within the house and for
 * `.local` alone, so that whoever stole it could pose as no other site; for names beyond (`names` that are of neither kind) it is made
 * anew, as it is shortly before it ends. The leaf is made anew when it nears its end, when a name is new, or when the authority is.
 */
export async function certificatesIn(folder: string, names: readonly string[], nowMs: number): Promise<Certificates> {
  mkdirSync(folder, { recursive: true, mode: 0o700 });
  const at = (file: string) => join(folder, file);
  const files = { key: at('authority-key.pem'), cert: at('authority.pem'), beyond: at('authority-names.json') };
  const beyond = names.filter((n) => !isOfTheHouse(n));
  let authority = readPair(files.key, files.cert);
  const permitted = authority && existsSync(files.beyond) ? (JSON.parse(readFileSync(files.beyond, 'utf8')) as string[]) : [];
  if (!authority || !lasts(authority.cert, nowMs, RENEW_BEFORE_DAYS + LEAF_DAYS) || !beyond.every((n) => permitted.includes(n))) {
    authority = await makeAuthority(beyond, nowMs);
    keep(files.beyond, JSON.stringify(beyond));
    keepPair(files, authority);
  }
  const own = { key: at('key.pem'), cert: at('certificate.pem') };
  let leaf = readPair(own.key, own.cert);
  if (!leaf || !isGood(leaf.cert, authority.cert, names, nowMs)) {
    leaf = await makeLeaf(authority, names, nowMs);
    keepPair(own, leaf);
  }
  return { authority: authority.cert, leaf };
}

/** As a person compares it: SHA-256 of the certificate, in pairs. */
export const fingerprintOf = (pem: string): string => new X509Certificate(pem).fingerprint256;

const house = new BlockList();
for (const range of HOUSE_V4) house.addSubnet(range.split('/')[0] as string, Number(range.split('/')[1]), 'ipv4');
for (const range of HOUSE_V6) house.addSubnet(range.split('/')[0] as string, Number(range.split('/')[1]), 'ipv6');
function isOfTheHouse(name: string): boolean {
  const kind = isIP(name);
  return kind === 0 ? name.endsWith(`.${HOUSE_NAME}`) : house.check(name, kind === 4 ? 'ipv4' : 'ipv6');
}

async function makeAuthority(beyond: readonly string[], nowMs: number): Promise<Certificate> {
  const keys = await newKeys();
  const host = (n: string) => new GeneralName({ iPAddress: `${n}/${isIP(n) === 4 ? 32 : 128}` });
  const named = (n: string) => new GeneralName({ dNSName: n });
  const permitted = [
    ...[...HOUSE_V4, ...HOUSE_V6].map((range) => new GeneralName({ iPAddress: range })),
    named(HOUSE_NAME),
    ...beyond.map((n) => (isIP(n) ? host(n) : named(n))),
  ].map((base) => new GeneralSubtree({ base }));
  const constraints = new NameConstraints({ permittedSubtrees: new GeneralSubtrees(permitted) });
  const made = await X509CertificateGenerator.createSelfSigned({
    serialNumber: serial(),
    // Two kitchens on one tablet are told apart.
    name: `CN=Kestfog kitchen ${randomBytes(2).toString('hex')}`,
    ...from(nowMs, AUTHORITY_DAYS),
    signingAlgorithm: SIGNATURE,
    keys,
    extensions: [
      new BasicConstraintsExtension(true, 0, true),
      new KeyUsagesExtension(KeyUsageFlags.keyCertSign | KeyUsageFlags.cRLSign, true),
      await SubjectKeyIdentifierExtension.create(keys.publicKey),
      new Extension(id_ce_nameConstraints, true, AsnConvert.serialize(constraints)),
    ],
  });
  return { key: await privatePem(keys.privateKey), cert: `${made.toString('pem')}\n` };
}

async function makeLeaf(authority: Certificate, names: readonly string[], nowMs: number): Promise<Certificate> {
  const keys = await newKeys();
  const signer = new X509Read(authority.cert);
  const signingKey = createPrivateKey(authority.key).export({ type: 'pkcs8', format: 'der' });
  const made = await X509CertificateGenerator.create({
    serialNumber: serial(),
    subject: 'CN=Kestfog',
    issuer: signer.subject,
    ...from(nowMs, LEAF_DAYS),
    signingAlgorithm: SIGNATURE,
    publicKey: keys.publicKey,
    signingKey: await webcrypto.subtle.importKey('pkcs8', signingKey, KEY, false, ['sign']),
    extensions: [
      new BasicConstraintsExtension(false, undefined, true),
      new KeyUsagesExtension(KeyUsageFlags.digitalSignature, true),
      new ExtendedKeyUsageExtension([ExtendedKeyUsage.serverAuth]),
      new SubjectAlternativeNameExtension(names.map((n) => ({ type: isIP(n) ? 'ip' : 'dns', value: n }))),
      await SubjectKeyIdentifierExtension.create(keys.publicKey),
      await AuthorityKeyIdentifierExtension.create(await signer.publicKey.export()),
    ],
  });
  return { key: await privatePem(keys.privateKey), cert: `${made.toString('pem')}\n` };
}

const newKeys = () => webcrypto.subtle.generateKey(KEY, true, ['sign', 'verify']);
const privatePem = async (key: webcrypto.CryptoKey) =>
  `${PemConverter.encode(await webcrypto.subtle.exportKey('pkcs8', key), 'PRIVATE KEY')}\n`;
/** Positive, and not guessed: RFC 5280, 4.1.2.2. */
const serial = () => `01${randomBytes(15).toString('hex')}`;
/** From a day before, since the clocks of tablets are not always right. */
const from = (nowMs: number, days: number) => ({ notBefore: new Date(nowMs - DAY_MS), notAfter: new Date(nowMs - DAY_MS + days * DAY_MS) });

const lasts = (cert: string, nowMs: number, days: number) => Date.parse(new X509Certificate(cert).validTo) - nowMs > days * DAY_MS;
function isGood(cert: string, authority: string, names: readonly string[], nowMs: number): boolean {
  const x = new X509Certificate(cert);
  return (
    x.verify(new X509Certificate(authority).publicKey) &&
    lasts(cert, nowMs, RENEW_BEFORE_DAYS) &&
    names.every((n) => (isIP(n) ? x.checkIP(n) : x.checkHost(n)) !== undefined)
  );
}

/** Null where one is missing, spoilt, or not of the other. */
function readPair(keyFile: string, certFile: string): Certificate | null {
  if (!existsSync(keyFile) || !existsSync(certFile)) return null;
  try {
    const pair = { key: readFileSync(keyFile, 'utf8'), cert: readFileSync(certFile, 'utf8') };
    return new X509Certificate(pair.cert).checkPrivateKey(createPrivateKey(pair.key)) ? pair : null;
  } catch {
    return null;
  }
}
/** Whole or not at all, also where the disk is full or the power goes. */
function keep(file: string, text: string, mode = 0o600): void {
  writeFileSync(`${file}.new`, text, { mode });
  renameSync(`${file}.new`, file);
}
function keepPair(files: { readonly key: string; readonly cert: string }, pair: Certificate): void {
  keep(files.key, pair.key);
  keep(files.cert, pair.cert, 0o644);
}
