import { createHash } from 'node:crypto';

const sha = (text: string) => `'sha256-${createHash('sha256').update(text).digest('base64')}'`;

/**
 * Content security policy without `unsafe-inline`: react-native-web inserts one empty style element, allowed by the hash of the
 * empty string; the styles of the page's own template are allowed by theirs.
 */
export function contentPolicy(html: string): string {
  const styles = [...html.matchAll(/<style[^>]*>([\s\S]*?)<\/style>/g)].map((m) => sha(m[1] ?? ''));
  return [
    "default-src 'self'",
    "script-src 'self'",
    `style-src 'self' ${[sha(''), ...styles].join(' ')}`,
    // Styles of single elements are set through the object model, which this does not touch.
    "img-src 'self' data: blob:",
    "font-src 'self' data:",
    "worker-src 'self'",
    "connect-src 'self'",
    "object-src 'none'",
    "base-uri 'self'",
    "frame-ancestors 'none'",
  ].join('; ');
}

/** The same for the workers below /reader/, which run WebAssembly; no page does. */
export const readerPolicy = (policy: string): string =>
  policy.replace("script-src 'self'", "script-src 'self' 'wasm-unsafe-eval'");
