import { itemPick, itemToken, placeWords, referenceOf, referenceText, type ItemPick } from '@grammata/core/scope';
import { pointerOf, tokensOf } from '@grammata/core/submission';
import { Choice, TextBox } from '../../../ui';
import { useWorkbench } from '../../workbench';

const picks: Record<ItemPick['pick'], string> = {
  first: 'the first',
  last: 'the last',
  each: 'all',
  whose: 'the one where…',
};

/** Which item of a list in an answer is meant, where one is: the first, the last, each, or the one with something in it. */
export function WhichItem({ value, onPick }: { value: string; onPick: (key: string) => void }) {
  const { references } = useWorkbench('offers');
  const reference = referenceOf(value);
  if (reference.to !== 'answer') return null;
  const tokens = tokensOf(reference.pointer);
  const at = tokens.findIndex(each => itemPick(each) !== null);
  const item = at < 0 ? null : itemPick(tokens[at]!);
  if (item === null) return null;
  const list = tokens.slice(0, at);
  const put = (next: ItemPick) => {
    const pointer = pointerOf([...list, itemToken(next), ...tokens.slice(at + 1)]);
    onPick(referenceText({ ...reference, pointer }));
  };
  // What an item has, as the target says it; written with slashes where it stands deeper.
  const before = `${pointerOf([...list, '@first'])}/`;
  const parts = references.flatMap(({ key }) => {
    const other = referenceOf(key);
    const isPart = other.to === 'answer' && other.callId === reference.callId && other.pointer.startsWith(before);
    return isPart ? [other.pointer.slice(before.length)] : [];
  });
  const part = item.pick === 'whose' ? item.part : (parts[0] ?? 'id');
  return (
    <div className="grid gap-x-6 gap-y-2 sm:grid-cols-3">
      <Choice<ItemPick['pick']>
        label={`Item of ${placeWords(pointerOf(list)) || 'the list'}`}
        value={item.pick}
        options={picks}
        onChange={pick => put(pick === 'whose' ? { pick, part, is: '' } : { pick })}
      />
      {item.pick === 'whose' && (
        <>
          <Choice
            label="Field"
            look="code"
            value={item.part}
            options={[...new Set([...parts, item.part])].map(each => ({
              value: each,
              label: each.replaceAll('/', '.'),
            }))}
            onChange={next => put({ ...item, part: next })}
          />
          <TextBox
            label="Equals"
            look="code"
            value={item.is}
            onChange={is => put({ ...item, is })}
            error={item.is === '' ? 'Enter a value.' : null}
          />
        </>
      )}
    </div>
  );
}
