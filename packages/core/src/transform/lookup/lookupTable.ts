import Papa from 'papaparse';
import type { OptionList, OptionPair } from '../optionPairs';

/** The rows of a table that was pasted as CSV (RFC 4180): what comes, what goes. */
export function readLookupTable(table: string): OptionPair[] {
  const { data } = Papa.parse<string[]>(table.trim(), {
    skipEmptyLines: 'greedy',
    delimitersToGuess: [',', ';', '\t'],
  });
  return data.map(([answer = '', option = '']) => ({ answer: answer.trim(), option: option.trim() }));
}

/** Rows as CSV; options without an answer of their own have no place in it. */
export const writeLookupTable = ({ pairs }: Pick<OptionList, 'pairs'>): string =>
  Papa.unparse(
    pairs.map(({ answer, option }) => [answer, option]),
    { newline: '\n' },
  );
