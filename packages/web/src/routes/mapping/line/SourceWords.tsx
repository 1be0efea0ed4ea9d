import { flatSegments, type Source } from '@grammata/core/route';
import { sourceWords } from '@grammata/core/sheet';
import { asText } from '@grammata/core/submission';

/** Where a line comes from, as it reads in the galley. */
export function SourceWords({ source, labelOf }: { source: Source | null; labelOf: (key: string) => string }) {
  if (source === null) return <span className="text-ink-3 italic">no source</span>;
  switch (source.from) {
    case 'field':
      return <span className="max-w-full shrink-0 truncate text-lapis">{labelOf(source.field)}</span>;
    case 'first':
      return (
        <span className="max-w-full shrink-0 truncate">
          first non-empty of <span className="text-lapis">{source.fields.map(labelOf).join(', ') || '…'}</span>
        </span>
      );
    case 'rest':
      return <span className="max-w-full shrink-0 truncate">all unused answers</span>;
    case 'list':
      return <span className="max-w-full shrink-0 truncate">{sourceWords({ source }, labelOf) || 'empty list'}</span>;
    case 'constant':
      return (
        <span className="max-w-full shrink-0 truncate">
          always <span className="font-mono text-small">{asText(source.value) || '(blank)'}</span>
        </span>
      );
    case 'text':
      return (
        <span className="max-w-full shrink-0 truncate font-serif text-[0.875rem] italic">
          {flatSegments(source.segments).map((each, index) =>
            'text' in each ? (
              <span key={index}>{each.text}</span>
            ) : (
              <span key={index} className="text-lapis">{`{${labelOf(each.field)}}`}</span>
            ),
          )}
        </span>
      );
  }
}
