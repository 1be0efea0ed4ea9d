import { defineCheck } from './check';
import { aboutLines, filledLines } from './lineFindings';

/** No field is filled by two lines: the later one would win, and nobody would see it. */
export const twoForOne = defineCheck({
  id: 'twice',
  look(seen) {
    const lines = filledLines(seen);
    const again = lines.filter(({ call, line }, at) =>
      lines.slice(0, at).some(other => other.call.id === call.id && other.line.to === line.to),
    );
    return aboutLines(
      'trouble',
      again,
      names => `Two lines fill ${names}.`,
      'Clear one of them, or use “First non-empty answer” in one line.',
    );
  },
});
