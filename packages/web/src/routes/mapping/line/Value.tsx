import { textOfAnswer, type Outcome } from '@grammata/core/request';
import { asText, isBlank, isFile, isJsonObject, type Json } from '@grammata/core/submission';

/** What goes into the request for the sample at hand. */
export function Value({
  outcome,
  filled,
  fixed,
}: {
  outcome: Outcome | null;
  filled: boolean;
  /** What is sent where nothing fills it. */
  fixed?: Json;
}) {
  if (fixed !== undefined)
    return <span className="block truncate font-mono text-small text-ink-2">{asText(fixed)}</span>;
  if (!outcome || !filled) return <span className="font-mono text-small text-ink-3">–</span>;
  if (outcome.state === 'trouble')
    return (
      <span className="block truncate font-mono text-small text-crimson" title={outcome.problem?.message}>
        ! {outcome.problem?.message}
      </span>
    );
  if (outcome.value === undefined) return <span className="font-mono text-small text-ink-3">left out</span>;
  if (outcome.value === null || isBlank(outcome.value))
    return <span className="font-mono text-small text-ink-3">{JSON.stringify(outcome.value)}</span>;
  const text =
    isJsonObject(outcome.value) && !isFile(outcome.value) ? asText(outcome.value) : textOfAnswer(outcome.value);
  return (
    <span className="block truncate font-mono text-small" title={text}>
      {text}
    </span>
  );
}
