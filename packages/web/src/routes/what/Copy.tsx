import type { Source } from '@grammata/core/request';
import { asText } from '@grammata/core/submission';
import { bytes, count, kindMarks, Moment } from '../../ui';
import type { Workbench } from '../workbench';

const fieldsIn = (source: Source | null): string[] =>
  source === null || source.from === 'constant'
    ? []
    : source.from === 'field'
      ? [source.field]
      : source.segments.flatMap(each => ('field' in each ? [each.field] : []));

/** The sample at hand: every question of the form with its answer. Picking one fills the open line. */
export function Copy({
  workbench: { sample, at, samples, show, route, editing },
  onPick,
  hot,
}: {
  workbench: Workbench;
  onPick: ((key: string) => void) | null;
  hot: Source | null;
}) {
  const used = new Set(editing.draft.call.lines.flatMap(line => fieldsIn(line.source)));
  const isHot = new Set(fieldsIn(hot));
  return (
    <section
      aria-label="Sample"
      className="border-rule pr-3.5 pb-6 pl-6 lg:sticky lg:top-0 lg:max-h-[calc(100vh-5rem)] lg:overflow-auto lg:border-r"
    >
      <div className="flex items-baseline justify-between border-b border-rule pt-2.5 pb-2">
        <span>
          <b className="font-semibold">Sample {samples.length > 0 ? at + 1 : '–'}</b>{' '}
          <span className="text-ink-3">
            of {count(samples.length)}
            {sample && (
              <>
                {' '}
                · <Moment at={sample.receivedAt} />
              </>
            )}
          </span>
        </span>
        <span className="flex gap-1">
          <button
            type="button"
            onClick={() => show(at - 1)}
            disabled={at === 0}
            aria-label="Previous sample"
            aria-keyshortcuts="h"
          >
            <kbd>h</kbd>
          </button>
          <button
            type="button"
            onClick={() => show(at + 1)}
            disabled={at >= samples.length - 1}
            aria-label="Next sample"
            aria-keyshortcuts="l"
          >
            <kbd>l</kbd>
          </button>
        </span>
      </div>
      {samples.length === 0 && (
        <p className="py-3 font-serif text-[0.9375rem]/6 text-ink-2">
          No submission is recorded yet. Send one to the intake, and it shows here.
        </p>
      )}
      <ul>
        {route.form.schema.fields.map(({ key, label, kind }) => {
          const field = sample?.submission.fields.find(each => each.key === key);
          const files = sample?.submission.files.filter(each => each.field === key) ?? [];
          const size = files.reduce((sum, file) => sum + (file.size ?? 0), 0);
          const text = field
            ? asText(field.value)
            : files.length > 0
              ? `${files.length} ${files.length === 1 ? 'file' : 'files'}${size > 0 ? `, ${bytes(size)}` : ''}`
              : '';
          const { mark, word } = kindMarks[field?.kind ?? kind];
          return (
            <li
              key={key}
              className={`relative -mr-3.5 -ml-6 border-b border-dotted border-rule ${isHot.has(key) ? 'bg-lapis-wash' : ''}`}
            >
              <button
                type="button"
                disabled={!onPick}
                onClick={() => onPick?.(key)}
                title={onPick ? `Fill the open line from “${label}”` : `${word} · ${key}`}
                className="block w-full py-[5px] pr-3.5 pl-[46px] text-left enabled:hover:bg-oxide-wash"
              >
                <span className="absolute top-1.5 left-6 w-4 text-center font-mono text-fine/[1.125rem] text-ink-3">
                  <span aria-hidden>{mark}</span>
                  <span className="sr-only">{word}</span>
                </span>
                <span className={`block text-small/4 ${used.has(key) ? 'text-lapis' : 'text-ink-2'}`}>
                  {label}
                  {!used.has(key) && <span className="sr-only"> (not used)</span>}
                </span>
                <span className="block min-h-[17px] truncate font-mono text-small/[17px]">
                  {text || <span className="text-ink-3">–</span>}
                </span>
              </button>
            </li>
          );
        })}
      </ul>
    </section>
  );
}
