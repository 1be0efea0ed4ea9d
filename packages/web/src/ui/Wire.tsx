/** A message as it is on the wire. Lines before the first blank one are its head. */
export function Wire({ text, label, mark }: { text: string; label: string; mark?: string | null }) {
  const divide = text.indexOf('\n\n');
  const head = divide < 0 ? text : text.slice(0, divide);
  const body = divide < 0 ? '' : text.slice(divide + 2);
  return (
    <div role="region" aria-label={label} tabIndex={0} className="wire overflow-auto">
      <span className="text-ink-3">{head}</span>
      {body && '\n\n'}
      {body && <Marked text={body} mark={mark ?? null} />}
    </div>
  );
}

/** Text with the first place of `mark` lit up. */
export function Marked({ text, mark }: { text: string; mark: string | null }) {
  const at = mark ? text.indexOf(mark) : -1;
  if (!mark || at < 0) return text;
  return (
    <>
      {text.slice(0, at)}
      <mark data-hot className="bg-lapis-wash text-lapis">
        {mark}
      </mark>
      {text.slice(at + mark.length)}
    </>
  );
}
