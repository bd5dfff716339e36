import { NextResponse, type NextRequest } from 'next/server';
import { readFileSync } from 'node:fs';
import path from 'node:path';
import { hostsOf, policyOf, turnedAway } from '@/server/gate';
import { shellOf } from '@/server/shell';

const hosts = hostsOf(process.env.INTONAZIONE_HOSTS);
const built = process.env.NODE_ENV === 'production';

/** The fingerprints of the scripts within each built page, by its address; made after the build. */
let scripts: Readonly<Record<string, readonly string[]>> | null = null;
const scriptsIn = (page: string): readonly string[] => {
  scripts ??= JSON.parse(
    readFileSync(path.join(process.cwd(), '.next', 'inline-scripts.json'), 'utf8'),
  ) as typeof scripts;
  return scripts?.[page] ?? scripts?.['/_not-found'] ?? [];
};

/**
 * Before every page and action: whether it may be asked at all, and which scripts its page may run. Routes see to it
 * themselves (`server/guarded.ts`).
 */
export function proxy(request: NextRequest): NextResponse {
  const { method, headers, nextUrl } = request;
  const why = turnedAway({ method, host: headers.get('host'), origin: headers.get('origin') }, hosts);
  if (why !== null) return NextResponse.json({ error: { code: 'turned-away', message: why } }, { status: 403 });
  if (!built) return NextResponse.next();
  // The few pages that are drawn when they are asked for take the nonce; built ones are known by their scripts.
  const nonce = Buffer.from(crypto.getRandomValues(new Uint8Array(16))).toString('base64');
  const policy = policyOf(nonce, scriptsIn(shellOf(nextUrl.pathname)));
  const passed = new Headers(headers);
  passed.set('content-security-policy', policy);
  const response = NextResponse.next({ request: { headers: passed } });
  response.headers.set('content-security-policy', policy);
  return response;
}

/** Not before what is built and the same for everyone. */
export const config = { matcher: ['/((?!api/|_next/static|_next/image|worklets/|icon.svg|favicon.ico).*)'] };
