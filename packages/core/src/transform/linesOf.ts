/** The lines of a parameter that are filled. */
export const linesOf = (text: string): string[] =>
  text
    .split('\n')
    .map(line => line.trim())
    .filter(line => line !== '');
