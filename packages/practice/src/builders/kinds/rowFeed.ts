import type { BuilderKind } from '../kind';
import { keyOf } from './plainKeys';

/** Can’t push: keeps its rows to be read, newest first. Its earlier generation gave a bare list, of one too. */
export const rowFeed: BuilderKind = {
  id: 'row-feed',
  summary: 'Can’t push: its rows are read from an address, newest first, with a token.',
  way: 'feed',
  generations: { now: 'rows with a cursor', earlier: 'a bare list' },
  choosesMethod: false,
  signs: false,
  row(form, { entry, sent, answers }) {
    const cells = form.questions.map(({ id, ask }) => [keyOf(ask), answers[id] ?? null]);
    return { row_id: entry, added_at: sent, ...(Object.fromEntries(cells) as Record<string, unknown>) };
  },
};
