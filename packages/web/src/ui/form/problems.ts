import { ApiFault, wordsFor } from '../../api';

/** What the server has against a form: by field, and as a whole. */
export interface Problems {
  fields: { field: string; message: string }[];
  /** What belongs to no field that is shown; null for nothing. */
  whole: string | null;
}

/**
 * Parts a refusal among the fields that are shown. A complaint about a part of a field belongs to the field. `under`: the part of
 * what was sent that the form is. */
export function problemsOf(error: unknown, shown: readonly string[], under?: string): Problems {
  const errors = (error instanceof ApiFault ? (error.problem.errors ?? []) : []).map(each => ({
    ...each,
    field: under !== undefined && each.field.startsWith(`${under}.`) ? each.field.slice(under.length + 1) : each.field,
  }));
  const placed = errors.map(({ field, message }) => ({
    // `auth.user` belongs to `auth.user`, or to `auth` where only that is shown; `auth` to the first of its parts.
    field:
      shown.find(each => each === field) ??
      shown.filter(each => field.startsWith(`${each}.`)).sort((a, b) => b.length - a.length)[0] ??
      shown.find(each => each.startsWith(`${field}.`)) ??
      null,
    named: field,
    message,
  }));
  const fields = placed.flatMap(({ field, message }) => (field === null ? [] : [{ field, message }]));
  const strange = placed.filter(each => each.field === null).map(each => `${each.named}: ${each.message}`);
  if (errors.length === 0) return { fields, whole: wordsFor(error) };
  return { fields, whole: strange.length > 0 ? strange.join(' ') : null };
}

/** What the browser's own check has against fields that are not shown; null where all of it stands beside fields. */
export function unseen(errors: object, shown: readonly string[]): string | null {
  const found: string[] = [];
  const walk = (part: object, path: string) => {
    for (const [name, each] of Object.entries(part)) {
      if (typeof each !== 'object' || each === null || name === 'ref') continue;
      const at = path ? `${path}.${name}` : name;
      const { message } = each as { message?: unknown };
      if (typeof message !== 'string') walk(each as object, at);
      else if (!shown.includes(at)) found.push(`${at}: ${message}`);
    }
  };
  walk(errors, '');
  return found.length > 0 ? found.join(' ') : null;
}
