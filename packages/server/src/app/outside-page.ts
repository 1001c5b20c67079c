import type { Response } from 'express';
import type { App } from './app';

/** The look of pages that clients see without a sign-in: the tokens of the interface, light and dark. */
const CSS = `
:root{--paper:#f8f5ee;--panel:#fff;--ink:#1c2331;--soft:#5a6272;--rule:#ded8ca;--brass:#7a5510;--met:#2e6b4c;--late:#9b1c31}
@media (prefers-color-scheme:dark){:root{--paper:#171a21;--panel:#20242d;--ink:#ece7db;--soft:#b0b3bd;--rule:#3a3f4b;--brass:#e0b665;--met:#7fc7a0;--late:#ff9aa8}}
body{margin:0;background:var(--paper);color:var(--ink);font:16px/1.5 system-ui,sans-serif}
header{padding:16px 24px;border-bottom:1px solid var(--rule);font-weight:600}
main{max-width:640px;margin:24px auto;padding:0 24px}
h1{font-size:24px;line-height:1.25;margin:8px 0 16px}h2{font-size:16px;margin:32px 0 8px}
.soft{color:var(--soft);margin:0}.status{font-size:18px;padding:16px;background:var(--panel);border:1px solid var(--rule);border-radius:4px}
.status.met{border-color:var(--met)}.note{padding:12px 16px;background:var(--panel);border:1px solid var(--brass);border-radius:4px}
article{padding:12px 0;border-top:1px solid var(--rule)}.text{white-space:pre-wrap;overflow-wrap:anywhere;margin:4px 0}
button{font:inherit;padding:12px 24px;border:0;border-radius:4px;background:var(--brass);color:var(--panel)}
label{display:block;font-weight:600;margin:16px 0 4px}.wrong{color:var(--late);display:block}.trap{position:absolute;left:-9999px}
input,select,textarea{font:inherit;color:inherit;background:var(--panel);border:1px solid var(--soft);border-radius:4px;padding:8px;width:100%;box-sizing:border-box}
form button{margin-top:24px}button.quiet{background:none;color:var(--brass);padding:12px 0;text-decoration:underline}
`;

/** Writes a page for somebody outside. The body is HTML: what people wrote must be escaped in it. */
export function outsidePage(
  app: App,
  { res, status, body }: { readonly res: Response; readonly status: number; readonly body: string },
): void {
  const { provider } = app.house.house;
  res
    .status(status)
    .type('html')
    .send(
      `<!doctype html><html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width, initial-scale=1"><title>${escaped(provider)}</title><style>${CSS}</style></head><body><header>${escaped(provider)}</header><main>${body}</main></body></html>`,
    );
}

export function escaped(text: string): string {
  return text.replace(/[&<>"']/g, (c) => `&#${c.charCodeAt(0)};`);
}
