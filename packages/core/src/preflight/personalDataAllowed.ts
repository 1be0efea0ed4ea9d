import type { FieldKind } from '../submission';
import { fieldsOf } from '../route';
import { defineCheck } from './check';
import { aboutLines, filledLines } from './lineFindings';

/** Kinds of answers that tell who somebody is. */
const personal = new Set<FieldKind>(['name', 'email', 'phone', 'address']);

/** What tells who people are goes where somebody said that it may. */
export const personalDataAllowed = defineCheck({
  id: 'personal',
  look(seen) {
    const kinds = new Map((seen.questions ?? []).map(each => [each.key, each.kind]));
    const open = seen.targets.filter(each => each.takesPersonal === false);
    return open.flatMap(({ id, name }) => {
      const lines = filledLines(seen).filter(
        ({ call, line }) =>
          call.targetId === id && fieldsOf(line.source).some(key => personal.has(kinds.get(key) ?? 'text')),
      );
      return aboutLines(
        'look',
        lines,
        names => `${names}: personal data, and ${name} is not allowed to receive it.`,
        'Allow it on the target’s page, or remove the line.',
      );
    });
  },
});
