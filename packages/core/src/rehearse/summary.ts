import type { LineTotals, Rehearsal } from './rehearse';

/** One kind of trouble on a line: what is said, and for which samples. */
export interface TroubleGroup {
  message: string;
  sampleIds: string[];
}

/** A rehearsal without its requests and values: small enough to hand over at every keystroke. */
export interface RehearsalSummary {
  going: number;
  sendable: number;
  /** Keys of required fields that no line fills. */
  missing: string[];
  lines: (LineTotals & { troubles: TroubleGroup[] })[];
  /** Per sample, in their order: whether it goes and may be sent, and a letter a line: `f` fine, `b` blank, `t` trouble. */
  samples: { id: string; goes: boolean; sendable: boolean; states: string }[];
}

export function summarise(rehearsal: Rehearsal): RehearsalSummary {
  const going = rehearsal.samples.filter(sample => sample.goes);
  return {
    going: rehearsal.going,
    sendable: rehearsal.sendable,
    missing: rehearsal.missing,
    lines: rehearsal.lines.map((totals, index) => {
      const groups = new Map<string, string[]>();
      for (const { cells, sampleId } of going) {
        const message = cells[index]!.problem?.message;
        if (message !== undefined) groups.set(message, [...(groups.get(message) ?? []), sampleId]);
      }
      const troubles = [...groups].map(([message, sampleIds]) => ({ message, sampleIds }));
      return { ...totals, troubles: troubles.sort((a, b) => b.sampleIds.length - a.sampleIds.length) };
    }),
    samples: rehearsal.samples.map(({ sampleId, goes, sendable, cells }) => ({
      id: sampleId,
      goes,
      sendable,
      states: cells.map(cell => cell.state[0]).join(''),
    })),
  };
}
