/**
 * What goes with every page: a content policy by which only scripts run that are files of ours or known by a number that is
 * used once. (Source: W3C, Content Security Policy Level 3.)
 */
import { NextResponse, type NextRequest } from "next/server";

const policyWith = (nonce: string): string =>
  [
    "default-src 'self'",
    // Next's development server evaluates; nothing else does.
    `script-src 'self' 'nonce-${nonce}' 'wasm-unsafe-eval'${process.env.NODE_ENV === "production" ? "" : " 'unsafe-eval'"}`,
    "style-src 'self' 'unsafe-inline'",
    "img-src 'self' data: blob:",
    "connect-src 'self' data: blob:",
    "worker-src 'self' blob:",
    "object-src 'none'",
    "base-uri 'none'",
    "form-action 'self'",
    "frame-ancestors 'none'",
  ].join("; ");

export function proxy(request: NextRequest): NextResponse {
  const nonce = btoa(crypto.randomUUID());
  const policy = policyWith(nonce);
  const headers = new Headers(request.headers);
  headers.set("content-security-policy", policy);
  const answer = NextResponse.next({ request: { headers } });
  answer.headers.set("content-security-policy", policy);
  return answer;
}

/** Files of the build and the API have a policy of their own, see `next.config.ts`. */
export const config = { matcher: "/((?!_next/|api/|picture-worker).*)" };
