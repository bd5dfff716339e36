/** Who may ask this server at all: told by the Host it was asked for and the Origin of the page that asks. */

export interface RequestHead {
  readonly method: string;
  readonly host: string | null;
  readonly origin: string | null;
}

/** Names a server on one's own machine goes by; others are named in the configuration. */
const OWN = ['localhost', '127.0.0.1', '[::1]'];
const READS = new Set(['GET', 'HEAD', 'OPTIONS']);

/** Host names from the configuration: separated by commas or spaces, without ports. */
export const hostsOf = (text: string | undefined): readonly string[] => [
  ...OWN,
  ...(text ?? '')
    .split(/[\s,]+/)
    .filter(Boolean)
    .map((name) => name.toLowerCase()),
];

/** The name in a Host header, without its port; null where it is none. */
export function nameOf(host: string | null): string | null {
  const found = /^(\[[0-9a-f:.]+\]|[a-z0-9.-]+)(?::\d{1,5})?$/i.exec(host ?? '');
  return found?.[1]?.toLowerCase() ?? null;
}

/**
 * Why a request is turned away, in words; null where it may come in. A page of another site must neither act through
 * a visitor's browser (its Origin gives it away) nor reach the server under a name of its own (its Host does).
 */
export function turnedAway({ method, host, origin }: RequestHead, hosts: readonly string[]): string | null {
  const name = nameOf(host);
  if (name === null || !hosts.includes(name))
    return 'This server does not answer to that name. Add it to INTONAZIONE_HOSTS if it should.';
  if (READS.has(method) || origin === null) return null;
  const from = URL.canParse(origin) ? new URL(origin).host : null;
  return from === host?.toLowerCase() ? null : 'A page of another site may not act here.';
}

/**
 * The content security policy of a page. Scripts of this server's own files may run; those within the page where they
 * carry `nonce` or one of the `fingerprints` ('sha256-...') of what was built.
 */
export const policyOf = (nonce: string, fingerprints: readonly string[]): string =>
  [
    "default-src 'self'",
    `script-src 'self' 'nonce-${nonce}' ${fingerprints.map((one) => `'${one}' `).join('')}'wasm-unsafe-eval'`,
    "worker-src 'self' blob:",
    "font-src 'self'",
    // Styles are set on elements by the drawing and dialog libraries; they run nothing.
    "style-src 'self' 'unsafe-inline'",
    "img-src 'self' data: blob:",
    "media-src 'self' blob:",
    "connect-src 'self'",
    "object-src 'none'",
    "base-uri 'self'",
    "form-action 'self'",
    "frame-ancestors 'none'",
  ].join('; ');
