import { plainText } from '../submission';
import { linesOf } from './linesOf';

/** What is sent for an answer. */
export interface OptionPair {
  answer: string;
  option: string;
}

/**
 * A list of options as steps hold it, one a line: `answer = option` where both differ, or an option that is answered as it is
 * sent.
 */
export interface OptionList {
  pairs: OptionPair[];
  /** Options without an answer of another spelling. */
  listed: string[];
}

export function readOptionList(text: string): OptionList {
  const list: OptionList = { pairs: [], listed: [] };
  for (const line of linesOf(text)) {
    const at = line.indexOf('=');
    if (at < 0) list.listed.push(line);
    else list.pairs.push({ answer: line.slice(0, at).trim(), option: line.slice(at + 1).trim() });
  }
  return list;
}

export const writeOptionList = ({ pairs, listed }: OptionList): string =>
  [...pairs.map(({ answer, option }) => `${answer} = ${option}`), ...listed].join('\n');

/** The option that is sent for an answer by a list, by its spelling or by a pair; undefined for none. */
export function optionInList({ pairs, listed }: OptionList, answer: string): string | undefined {
  const plain = plainText(answer);
  return (
    pairs.findLast(each => each.answer === answer)?.option ??
    listed.find(each => each === answer) ??
    pairs.find(each => plainText(each.answer) === plain || plainText(each.option) === plain)?.option ??
    listed.find(each => plainText(each) === plain)
  );
}

/** The list with an option for an answer in place of what was there; null takes it away. */
export function withPair({ pairs, listed }: OptionList, answer: string, option: string | null): OptionList {
  const others = pairs.filter(each => each.answer !== answer);
  // Where the answer itself is an option that is listed, the pair has to come before it.
  return { pairs: option === null ? others : [{ answer, option }, ...others], listed };
}
