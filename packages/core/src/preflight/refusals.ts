import type { TroubleGroup } from '../rehearse';
import { defineCheck, type Check, type Finding } from './check';
import { filledLines, type LineAt } from './lineFindings';

/** What targets would refuse of the values that lines give over the samples, by the problem's code: a check each. */
const refused = (
  id: string,
  code: string,
  words: (where: string, said: string, samples: string) => string,
  remedy: string,
): Check =>
  defineCheck({
    id,
    look(seen) {
      const { rehearsal } = seen;
      if (!rehearsal || 'fault' in rehearsal || !rehearsal.summary) return [];
      const { calls, callIds } = rehearsal.summary;
      return filledLines(seen).flatMap(({ call, line, where }): Finding[] => {
        const totals = calls[callIds.indexOf(call.id)]?.lines.find(each => each.lineId === line.id);
        const group = totals?.troubles.find(each => each.code === code);
        if (!group) return [];
        const samples = group.samples.length;
        return [
          {
            tone: 'look',
            words: words(
              where,
              listOf(group),
              `${samples.toLocaleString('en-GB')} ${samples === 1 ? 'sample' : 'samples'}`,
            ),
            stops: false,
            remedy,
            at: atLine({ call, line }),
          },
        ];
      });
    },
  });

const atLine = ({ call, line }: Pick<LineAt, 'call' | 'line'>) => ({ callId: call.id, lineId: line.id });

/** The different things that are said, the first few of them. */
const listOf = ({ said, ways }: TroubleGroup): string =>
  [
    ...said.map(each => each.replace(/\.$/, '')),
    ...(ways > said.length ? [`and ${ways - said.length} more`] : []),
  ].join('; ');

/** Options that people chose are options of the target. */
export const optionsListed = refused(
  'options',
  'target.option',
  (_where, said, samples) => `${said}: in ${samples}.`,
  'Translate them with a table, or add them to the target’s options.',
);

/** Values are of the kind that the target takes. */
export const kindsFit = refused(
  'kinds',
  'target.type',
  (_where, said, samples) => `${said}: in ${samples}.`,
  'Add a step that converts them.',
);

/** Values are no longer than the target takes. */
export const lengthsFit = refused(
  'lengths',
  'target.length',
  (_where, said, samples) => `${said}: in ${samples}.`,
  'Shorten them, or use a field with a higher limit.',
);
