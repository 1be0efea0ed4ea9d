import type { LineProposal } from '@grammata/core/match';
import { newLine, type Line } from '@grammata/core/route';
import { writable } from '@grammata/core/target';
import { useMemo } from 'react';
import { useWorkbench } from '../workbench';
import type { EditLine } from './line/editLine';

export const lineId = () => `line-${crypto.randomUUID().slice(0, 8)}`;

/** True for a line that nothing fills, and for which somebody may want what is proposed. */
export const takesProposals = ({ source, declined }: Line): boolean => source === null && !declined;

/** What can be done to the lines of the call at hand. Every one of these is one step of undo. */
export function useLines() {
  const { call, editCall, operation } = useWorkbench('call');
  const { lines } = call;
  const deeds = useMemo(() => {
    const change = (next: (lines: Line[]) => Line[]) => editCall(before => ({ ...before, lines: next(before.lines) }));
    return {
      edit:
        (id: string): EditLine =>
        edit =>
          change(all => all.map(line => (line.id === id ? edit(line) : line))),
      fill: (id: string, key: string) =>
        change(all => all.map(line => (line.id === id ? { ...line, source: { from: 'field', field: key } } : line))),
      take: (proposals: LineProposal[]) =>
        change(all =>
          all.map(line => {
            const proposal = takesProposals(line) ? proposals.find(each => each.to === line.to) : undefined;
            return proposal ? { ...line, source: proposal.source, cleaning: proposal.cleaning } : line;
          }),
        ),
      remove: (id: string) => change(all => all.filter(line => line.id !== id)),
      /** Moves a line to another field; an empty line that stood there goes. */
      moveTo: (id: string, key: string) =>
        change(all =>
          all
            .filter(line => line.id === id || line.to !== key || line.source !== null)
            .map(line => (line.id === id ? { ...line, to: key } : line)),
        ),
      add: (keys: string[]) => change(all => [...all, ...keys.map(key => newLine(lineId(), key))]),
    };
  }, [editCall]);
  /** Fields of the target that have no line at all. */
  const lineless = useMemo(() => {
    const withLine = new Set(lines.map(line => line.to));
    return operation ? writable(operation).filter(field => !withLine.has(field.key)) : [];
  }, [operation, lines]);
  return { lines, lineless, deeds };
}
