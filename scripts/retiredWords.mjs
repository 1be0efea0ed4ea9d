/** Words that the interface and errors do not use any more, each with what to write instead (docs/words.md). */
export const retiredWords = [
  [/\bdead letters?\b/i, 'failed'],
  [/\bloose ends?\b/i, 'unresolved, or say what no longer exists'],
  [/\b(mend|mends|mended|mending)\b/i, 'fix, repair'],
  [/\boverrule/i, 'correct'],
  [/\bheard of\b/i, 'noticed'],
  [/\bhad (at|from)\b|\b(can’t|can't|could not) be had\b|\bto be had\b/i, 'downloaded, loaded'],
  [/\btake it away\b|\bbring it back\b/i, 'export, import'],
  [/\banew\b/i, 'again'],
  [/\bmeanwhile\b/i, 'say what has changed'],
  [/\bas it came\b/i, 'raw message'],
  [/\bput away\b/i, 'close'],
  [/\bleft over\b/i, 'unused'],
  [/(?<!there )\bis no (?!longer\b|match\b)/i, 'is not a'],
  [/\brecorded submissions?\b/i, 'past submission'],
  [/\bpick (one|it|them|a|an|the)\b/i, 'choose'],
  [/\bclean desk\b|\bin trouble\b/i, 'needs attention, problem'],
];

/** ESLint rule: texts hold none of them. Words of the log, and of comments, are free. */
export const plainWords = {
  meta: { type: 'suggestion', schema: [] },
  create(context) {
    const look = (node, text) => {
      // What holds no space is a name, an address or a word by itself.
      if (typeof text !== 'string' || !text.trim().includes(' ')) return;
      for (const [pattern, instead] of retiredWords)
        if (pattern.test(text))
          context.report({ node, message: `“${pattern.exec(text)[0].trim()}” is a retired word: ${instead} (docs/words.md).` });
    };
    return {
      JSXText: node => look(node, node.value),
      Literal: node => look(node, node.value),
      TemplateElement: node => look(node, node.value.cooked),
    };
  },
};
