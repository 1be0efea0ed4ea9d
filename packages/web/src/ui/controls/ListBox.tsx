import { useState } from 'react';
import { TextBox, type TextBoxProps } from './controls';

/** An item as it is written in quotes, as CSV has it (RFC 4180), or up to the next comma. */
const ITEM = /\s*(?:"((?:[^"]|"")*)"|([^,]*))[^,]*(?:,|$)/g;

/** The items of a list as it is written. @example itemsOf('Thun, "Bern, Wabern"') gives Thun and Bern, Wabern */
export const itemsOf = (text: string): string[] =>
  [...text.matchAll(ITEM)]
    .map(([, quoted, plain]) => (quoted?.replaceAll('""', '"') ?? plain ?? '').trim())
    .filter(Boolean);

const written = (items: readonly string[]): string =>
  items.map(item => (/[",]/.test(item) ? `"${item.replaceAll('"', '""')}"` : item)).join(', ');

/** A list written with commas between, and in quotes what holds one; what is written stays as it is, such as a comma at its end. */
export function ListBox({
  items,
  onChange,
  ...rest
}: Omit<TextBoxProps, 'value' | 'onChange'> & { items: readonly string[]; onChange: (items: string[]) => void }) {
  const [text, setText] = useState(written(items));
  /** The items that the text stands for. */
  const [told, setTold] = useState(items);
  if (told.join('\n') !== items.join('\n')) {
    setTold(items);
    setText(written(items));
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
