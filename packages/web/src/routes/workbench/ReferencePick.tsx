import { Combobox, kindMarks, type ControlTexts } from '../../ui';
import type { Offered } from './references';

const groups: Record<Offered['group'], string> = {
  question: 'Questions',
  delivery: 'Available while sending',
  about: 'About the submission',
};
const order: Offered['group'][] = ['question', 'delivery', 'about'];

/** Picks a question, or what is said about the submission. One that is not known any more stays and is shown. */
export function ReferencePick({
  references,
  onPick,
  ...rest
}: ControlTexts & {
  references: Offered[];
  value: string;
  onPick: (key: string) => void;
  /** The words for picking nothing; without them something has to be picked. */
  none?: string;
  placeholder?: string;
  boxClass?: string;
}) {
  const options = order.flatMap(group =>
    references
      .filter(each => each.group === group)
      .map(({ key, label, kind, example }) => ({
        value: key,
        label,
        words: key,
        group: groups[group],
        mark: kindMarks[kind].mark,
        detail: example?.slice(0, 60),
      })),
  );
  return (
    <Combobox
      {...rest}
      options={options}
      onPick={onPick}
      prompt="Search questions"
      boxClass={`text-lapis ${rest.boxClass ?? ''}`}
    />
  );
}
