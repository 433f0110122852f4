import { NextResponse, type NextRequest } from 'next/server';

/** What a page may load: scripts by nonce only; WebAssembly needs a word of its own, styles are made while the page runs. */
function policy(nonce: string): string {
  const development = process.env.NODE_ENV === 'development' ? " 'unsafe-eval'" : '';
  return [
    "default-src 'self'",
    `script-src 'self' 'nonce-${nonce}' 'strict-dynamic' 'wasm-unsafe-eval'${development}`,
    "style-src 'self' 'unsafe-inline'",
    "img-src 'self' data: blob:",
    "media-src 'self' blob:",
    "worker-src 'self' blob:",
    "object-src 'none'",
    "frame-ancestors 'none'",
    "form-action 'self'",
    "base-uri 'self'",
  ].join('; ');
}

/** Gives every page a content security policy with a nonce of its own. */
export function proxy(request: NextRequest): NextResponse {
  const nonce = crypto.randomUUID();
  const value = policy(nonce);
  const headers = new Headers(request.headers);
  headers.set('x-nonce', nonce);
  headers.set('content-security-policy', value);
  const response = NextResponse.next({ request: { headers } });
  response.headers.set('Content-Security-Policy', value);
  if (process.env.COPPER_SECURE_COOKIE === 'yes') response.headers.set('Strict-Transport-Security', 'max-age=31536000');
  return response;
}

/** Pages only: bodies that pass through here are cut at 10 MB, and uploads are larger. */
export const config = { matcher: ['/((?!api/|_next/|icon).*)'] };
