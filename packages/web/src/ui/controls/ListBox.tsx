import { useState } from 'react';
import { TextBox, type TextBoxProps } from './controls';

const itemsOf = (text: string) =>
  text
    .split(',')
    .map(each => each.trim())
    .filter(Boolean);

/** A list written with commas between; what is written stays as it is, such as a comma at its end. */
export function ListBox({
  items,
  onChange,
  ...rest
}: Omit<TextBoxProps, 'value' | 'onChange'> & { items: readonly string[]; onChange: (items: string[]) => void }) {
  const [text, setText] = useState(items.join(', '));
  /** The items that the text stands for. An item may hold a comma, so they are not read back from it. */
  const [told, setTold] = useState(items);
  if (told.join('\n') !== items.join('\n')) {
    setTold(items);
    setText(items.join(', '));
  }
  return (
    <TextBox
      {...rest}
      value={text}
      onChange={next => {
        setText(next);
        setTold(itemsOf(next));
        onChange(itemsOf(next));
      }}
    />
  );
}
