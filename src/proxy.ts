import { NextResponse, type NextRequest } from 'next/server';
import { hostsOf, policyOf, turnedAway } from '@/server/gate';

const hosts = hostsOf(process.env.INTONAZIONE_HOSTS);

/** Before every page, action and route: whether it may be asked at all, and which scripts its page may run. */
export function proxy(request: NextRequest): NextResponse {
  const { method, headers } = request;
  const why = turnedAway({ method, host: headers.get('host'), origin: headers.get('origin') }, hosts);
  if (why !== null) return NextResponse.json({ error: { code: 'turned-away', message: why } }, { status: 403 });
  if (process.env.NODE_ENV !== 'production') return NextResponse.next();
  const nonce = Buffer.from(crypto.getRandomValues(new Uint8Array(16))).toString('base64');
  const policy = policyOf(nonce);
  const passed = new Headers(headers);
  passed.set('x-nonce', nonce);
  // Next reads the nonce for its own scripts out of this.
  passed.set('content-security-policy', policy);
  const response = NextResponse.next({ request: { headers: passed } });
  response.headers.set('content-security-policy', policy);
  return response;
}

/** Not before what is built and the same for everyone. */
export const config = { matcher: ['/((?!_next/static|_next/image|worklets/|icon.svg|favicon.ico).*)'] };
