import type { ServerResponse } from 'node:http';

const ESCAPES: Record<string, string> = { '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;' };
export const escaped = (text: string) => text.replace(/[&<>"]/g, (char) => ESCAPES[char] ?? '');

/** A plain page that shows what a stand-in has. */
export const page = (title: string, body: string) =>
  `<!doctype html><html lang="en"><meta charset="utf-8"><meta name="viewport" content="width=device-width"><title>${title}</title><style>body{font:16px/1.5 sans-serif;max-width:60rem;margin:3rem auto;padding:0 1rem}pre{white-space:pre-wrap}td,th{text-align:left;padding:.25rem 1.5rem .25rem 0}</style><h1>${title}</h1>${body}</html>`;

export function send(response: ServerResponse, status: number, body: string): void {
  response.writeHead(status, {
    'Content-Type': 'text/html; charset=utf-8',
    'Cache-Control': 'no-store',
    'Content-Security-Policy': "default-src 'none'; style-src 'unsafe-inline'",
  });
  response.end(body);
}
