/** A plain page of a stand-in; they are tools for trying things, not part of the product. */
export function page(title: string, body: string): string {
  return `<!doctype html><html lang="en"><meta charset="utf-8"><meta name="viewport" content="width=device-width"><title>${escape(title)}</title><style>
body{font:15px/1.5 system-ui,sans-serif;max-width:960px;margin:24px auto;padding:0 16px;color:#1c2331;background:#f8f5ee}
a{color:#7a5510}table{border-collapse:collapse;width:100%}td,th{text-align:left;padding:6px 8px;border-bottom:1px solid #ded8ca;vertical-align:top}
input,select,textarea,button{font:inherit;padding:6px 8px;border:1px solid #857e6b;border-radius:4px;background:#fff;color:inherit;box-sizing:border-box}
textarea,input[type=text],select{width:100%}label{display:block;margin:12px 0 4px}button{background:#7a5510;color:#fff;border:0;padding:8px 16px;cursor:pointer}
pre{white-space:pre-wrap;background:#fff;padding:12px;border:1px solid #ded8ca}small{color:#5a6272}.in{border-left:3px solid #7a5510}.out{border-left:3px solid #2f5d7c}
</style><h1>${escape(title)}</h1>${body}</html>`;
}

export function escape(text: string): string {
  return text.replace(/[&<>"']/g, (c) => `&#${c.charCodeAt(0)};`);
}
