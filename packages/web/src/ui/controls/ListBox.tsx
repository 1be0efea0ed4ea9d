import { useState } from 'react';
import { TextBox, type TextBoxProps } from './controls';

/**
 * The items of a list as it is written: with commas between, and in quotes what holds one, as CSV has it (RFC 4180).
 * @example itemsOf('Thun, "Bern, Wabern"') gives Thun and Bern, Wabern
 */
export function itemsOf(text: string): string[] {
  const items = [''];
  let isQuoted = false;
  for (let at = 0; at < text.length; at++) {
    const [char, item] = [text[at]!, items.length - 1];
    if (isQuoted && char === '"' && text[at + 1] === '"') items[item] += text[(at += 1)]!;
    else if (char === '"' && (isQuoted || items[item]!.trim() === '')) isQuoted = !isQuoted;
    else if (char === ',' && !isQuoted) items.push('');
    else items[item] += char;
  }
  return items.map(each => each.trim()).filter(Boolean);
}

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
