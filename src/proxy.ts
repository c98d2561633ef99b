import { NextResponse, type NextRequest } from 'next/server';

/** Each page gets a policy of its own, with a number that its scripts carry: nothing else may run. */
export function proxy(request: NextRequest): NextResponse {
  const policy = contentPolicy(Buffer.from(crypto.getRandomValues(new Uint8Array(16))).toString('base64'));
  const headers = new Headers(request.headers);
  // The framework reads the number from here.
  headers.set('content-security-policy', policy);
  const response = NextResponse.next({ request: { headers } });
  response.headers.set('content-security-policy', policy);
  return response;
}

/** Pages, also those that are not found; what else is served has its headers from the configuration. */
export const config = { matcher: ['/((?!api/|_next/|codecs/|demo/|help/|icon.svg$).*)'] };

function contentPolicy(nonce: string): string {
  // Styles are set on elements all over, which no number can cover.
  const evaluated = process.env.NODE_ENV === 'development' ? " 'unsafe-eval'" : '';
  return [
    "default-src 'self'",
    `script-src 'self' 'nonce-${nonce}' 'strict-dynamic' 'wasm-unsafe-eval'${evaluated}`,
    "style-src 'self' 'unsafe-inline'",
    "img-src 'self' blob: data:",
    "worker-src 'self'",
    "object-src 'none'",
    "base-uri 'none'",
    "form-action 'none'",
    "frame-ancestors 'none'",
  ].join('; ');
}
