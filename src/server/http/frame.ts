import { createHash } from 'node:crypto';
import type { Express } from 'express';

/** Shows what it is sent, and says how high that is. */
const script = `addEventListener('message',e=>{if(typeof e.data!=='string')return;document.documentElement.innerHTML=e.data;tell()});
const tell=()=>parent.postMessage(document.documentElement.scrollHeight,'*');
new ResizeObserver(tell).observe(document.documentElement);
parent.postMessage('ready','*');`;
const page = `<!doctype html><html lang="en"><head><meta charset="utf-8"><title>Preview</title></head><body><script>${script}</script></body></html>`;
const hash = createHash('sha256').update(script).digest('base64');

/** Where framed HTML is drawn: its own styles stand on its elements, and nothing but the few lines above runs or is fetched. */
export function serveFrame(server: Express): void {
  server.get('/api/frame', (_, response) => {
    response
      .set(
        'content-security-policy',
        `default-src 'none'; script-src 'sha256-${hash}'; style-src 'unsafe-inline'; frame-ancestors 'self'; base-uri 'none'; form-action 'none'`,
      )
      .set('cache-control', 'private, max-age=3600')
      .removeHeader('x-frame-options');
    response.type('html').send(page);
  });
}
