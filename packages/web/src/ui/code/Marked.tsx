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
