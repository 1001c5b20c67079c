import { inject } from '@angular/core';
import { forkJoin, map, of, shareReplay, type Observable } from 'rxjs';
import { assetRoutes, clientRoutes } from '@core/clients';
import { houseRoutes } from '@core/house';
import {
  DESK_LINES,
  IMPACTS,
  intakeRoutes,
  mailRuleFormSchema,
  mailRuleRoutes,
  type MailRuleWire,
  SORTED_KINDS,
  URGENCIES,
} from '@core/desk';
import type { SetupRow, SetupSection } from '../../ui/setup-list';
import { Api } from '../../shell/api';
import { everyPage } from '../../ui/every-page';
import type { Option } from '../../ui/field';

type Row = MailRuleWire & SetupRow;
type Values = Readonly<Record<string, unknown>>;
const plain = (values: readonly string[]): Option[] => values.map((v) => ({ value: v, label: v }));
const MOST_ASSETS = 500;
const routes = (v: Values) => v['does'] === 'route';

/** The house's rules for mail, in Setup; called where injection is possible. */
export function mailRulesSection(): SetupSection<Row, typeof mailRuleFormSchema> {
  const api = inject(Api);
  let desks: Option[] = [];
  let categories: Option[] = [];
  let clients: Option[] = [];
  let assets: Option[] = [];
  let assetsOf: unknown = null;
  const choices$: Observable<unknown> = forkJoin([
    api.call(houseRoutes.getHouse, {}),
    api.call(intakeRoutes.listCategories, {}),
    everyPage((page) => api.call(clientRoutes.listClients, { query: page })),
  ]).pipe(
    map(([house, all, known]) => {
      desks = house.desks.map((d) => ({ value: d.id, label: d.name }));
      categories = all.categories.filter((c) => c.parentId).map((c) => ({ value: c.id, label: `${c.parent}, ${c.name}` }));
      clients = known.rows.map((c) => ({ value: c.id, label: c.name }));
    }),
    shareReplay(1),
  );
  return {
    heading: 'Rules for mail',
    intro:
      'Asked from the top, of mail that would open a ticket; the first that fits decides. A star stands for any letters. What answers a ticket joins it and is asked nothing.',
    addWords: 'Add a rule',
    none: 'No rule yet: all mail comes to intake. Add one for what machines send again and again, such as reports of a backup.',
    rows: () =>
      forkJoin([api.call(mailRuleRoutes.listMailRules, {}), choices$]).pipe(
        map(([{ rules }]) => rules.map((rule) => ({ ...rule, says: `${looksFor(rule)}: ${doesWhat(rule)}` }))),
      ),
    draft: 'mail-rule',
    schema: mailRuleFormSchema,
    fresh: () => ({
      name: '',
      sender: '',
      subject: '',
      header: '',
      headerHolds: '',
      does: 'route',
      reason: null,
      kind: null,
      impact: null,
      urgency: null,
      line: null,
      categoryId: null,
      deskId: null,
      clientId: null,
      assetId: null,
    }),
    lines: () => [
      { name: 'name', label: 'Name' },
      { name: 'sender', label: 'Sender holds', placeholder: 'backup@*.example' },
      { name: 'subject', label: 'Subject holds', placeholder: 'backup*succeeded' },
      { name: 'header', label: 'Header', placeholder: 'x-host' },
      { name: 'headerHolds', label: 'Header holds' },
      {
        name: 'does',
        label: 'Then',
        kind: 'choice',
        options: [
          { value: 'route', label: 'send it where it belongs' },
          { value: 'aside', label: 'put it aside' },
        ],
      },
      { name: 'reason', label: 'Why it is put aside', when: (v) => v['does'] === 'aside' },
      {
        name: 'clientId',
        label: 'Client',
        kind: 'choice',
        none: "the sender's",
        options: clients,
        when: routes,
        // An asset is its client's: with another client it is chosen anew.
        write: (clientId) => ({ clientId, assetId: null }),
      },
      {
        name: 'assetId',
        label: assets.length < MOST_ASSETS ? 'Asset' : `Asset, of the first ${MOST_ASSETS}`,
        kind: 'choice',
        none: 'none',
        options: assets,
        when: (v) => routes(v) && Boolean(v['clientId']),
      },
      { name: 'kind', label: 'Kind', kind: 'choice', none: 'sorted in intake', options: plain(SORTED_KINDS), when: routes },
      { name: 'categoryId', label: 'Category', kind: 'choice', none: 'sorted in intake', options: categories, when: routes },
      { name: 'impact', label: 'Impact', kind: 'choice', none: 'sorted in intake', options: plain(IMPACTS), when: routes },
      { name: 'urgency', label: 'Urgency', kind: 'choice', none: 'sorted in intake', options: plain(URGENCIES), when: routes },
      { name: 'deskId', label: 'Desk', kind: 'choice', none: 'sorted in intake', options: desks, when: routes },
      { name: 'line', label: 'Line', kind: 'choice', none: 'sorted in intake', options: plain(DESK_LINES), when: routes },
    ],
    add: (body) => api.call(mailRuleRoutes.addMailRule, { body }),
    edit: (row, version, body) => api.call(mailRuleRoutes.editMailRule, { params: { mailRuleId: row.id }, version, body }),
    follow: ({ clientId }) => {
      if (clientId === assetsOf) return undefined;
      assetsOf = clientId;
      const known$ = clientId
        ? api.call(assetRoutes.listAssets, { query: { clientId: String(clientId), most: MOST_ASSETS } }).pipe(map((page) => page.rows))
        : of([]);
      return known$.pipe(map((rows) => (assets = rows.map((a) => ({ value: a.id, label: `${a.number} ${a.name}` })))));
    },
    tryOut: {
      words: 'Try it on the latest mail',
      run: (v) =>
        api
          .call(mailRuleRoutes.tryMailRule, {
            body: {
              sender: String(v['sender']),
              subject: String(v['subject']),
              header: String(v['header']),
              headerHolds: String(v['headerHolds']),
            },
          })
          .pipe(
            map(({ read, takes, taken }) => ({
              says: `It would have taken ${takes} of the latest ${read === 1 ? 'mail' : `${read} mails`}${takes ? ':' : '.'}`,
              lines: taken.map((m) => `${m.sender}: ${m.subject ?? '(no subject)'}`),
            })),
          ),
    },
    move: (row, position) => api.call(mailRuleRoutes.moveMailRule, { params: { mailRuleId: row.id }, body: { position } }),
    archive: (row) => api.call(mailRuleRoutes.archiveMailRule, { params: { mailRuleId: row.id } }),
  };
}

function looksFor(rule: MailRuleWire): string {
  return [
    rule.sender && `from ${rule.sender}`,
    rule.subject && `about ${rule.subject}`,
    rule.headerHolds && `${rule.header} holds ${rule.headerHolds}`,
  ]
    .filter(Boolean)
    .join(', ');
}

function doesWhat(rule: MailRuleWire): string {
  if (rule.does === 'aside') return `put aside, ${rule.reason}`;
  const sorted = rule.kind && rule.impact && rule.urgency && rule.line && rule.categoryId && rule.deskId;
  return [sorted ? `sorted as ${rule.kind}` : 'to intake', rule.client].filter(Boolean).join(', for ');
}
