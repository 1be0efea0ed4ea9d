import { autocompletion, completionKeymap, startCompletion, type CompletionContext } from '@codemirror/autocomplete';
import { defaultKeymap, history, historyKeymap } from '@codemirror/commands';
import { Compartment, EditorState } from '@codemirror/state';
import {
  Decoration,
  EditorView,
  keymap,
  MatchDecorator,
  ViewPlugin,
  WidgetType,
  type DecorationSet,
  type ViewUpdate,
} from '@codemirror/view';
import { useEffect, useImperativeHandle, useRef, type Ref } from 'react';
import type { Offered } from '../../workbench';
import { answerMark, beginsPart, marked, openBrace, readable, tellingApart, withAnswers } from './written';

/** What can be done to the text from outside. */
export interface TemplateHandle {
  /** Puts an answer in where the cursor is. */
  insert(key: string): void;
}

const theme = EditorView.theme({
  '&': { backgroundColor: 'var(--paper)', borderBottom: '1px solid var(--rule-strong)' },
  '&.cm-focused': { outline: '2px solid var(--oxide)', outlineOffset: '2px' },
  '.cm-content': {
    fontFamily: 'var(--font-serif)',
    fontSize: '0.875rem',
    padding: '4px 2px',
    caretColor: 'var(--ink)',
  },
  '.cm-line': { padding: '0' },
  '.cm-cursor': { borderLeftColor: 'var(--ink)' },
  '.cm-answer': { color: 'var(--lapis)', backgroundColor: 'var(--lapis-wash)' },
  '.cm-bound': { color: 'var(--ink-3)' },
  '.cm-stranger': { color: 'var(--crimson)', textDecoration: 'underline wavy' },
  '.cm-tooltip': {
    backgroundColor: 'var(--paper-raised)',
    border: '1px solid var(--ink)',
    borderRadius: '0',
    color: 'var(--ink)',
  },
  '.cm-tooltip.cm-tooltip-autocomplete > ul': { maxHeight: '24em' },
  '.cm-tooltip-autocomplete > ul > li[aria-selected]': { backgroundColor: 'var(--oxide-wash)', color: 'var(--ink)' },
  '.cm-completionDetail': {
    fontStyle: 'normal',
    color: 'var(--ink-2)',
    fontFamily: 'var(--font-mono)',
    fontSize: '0.75rem',
  },
});

/** An answer, or the bounds of a part, as one thing that is passed over and taken away as a whole. */
class Chip extends WidgetType {
  constructor(
    private readonly words: string,
    private readonly look: 'answer' | 'stranger' | 'bound',
  ) {
    super();
  }

  override eq(other: Chip): boolean {
    return other.words === this.words && other.look === this.look;
  }

  override toDOM(): HTMLElement {
    const chip = document.createElement('span');
    chip.className = `cm-${this.look}`;
    chip.textContent = this.words;
    return chip;
  }
}

function chips(references: readonly Offered[]) {
  const apart = tellingApart(references);
  const matcher = new MatchDecorator({
    regexp: marked(),
    decoration: ([mark, key]) => {
      const words = key === undefined ? (beginsPart(mark) ? '{?' : '?}') : (apart.get(key) ?? key);
      const look = key === undefined ? 'bound' : apart.has(key) ? 'answer' : 'stranger';
      return Decoration.replace({ widget: new Chip(words, look) });
    },
  });
  return ViewPlugin.fromClass(
    class {
      decorations: DecorationSet;
      constructor(view: EditorView) {
        this.decorations = matcher.createDeco(view);
      }
      update(update: ViewUpdate) {
        this.decorations = matcher.updateDeco(update, this.decorations);
      }
    },
    {
      decorations: plugin => plugin.decorations,
      provide: plugin => EditorView.atomicRanges.of(view => view.plugin(plugin)?.decorations ?? Decoration.none),
    },
  );
}

/** Characters before the cursor in which an opening brace is looked for. */
const LOOKED_BACK = 400;

/** What is typed or pasted is read for answers. */
const reading = (references: readonly Offered[]) => [
  EditorView.inputHandler.of((view, from, to, text) => {
    if (!/[?}]/.test(text)) return false;
    const back = view.state.sliceDoc(Math.max(0, from - LOOKED_BACK), from);
    // The brace that is open, or the question mark of the end of a part.
    const open = openBrace.exec(back) ?? /\?$/.exec(back);
    const start = open ? from - open[0].length : from;
    const typed = view.state.sliceDoc(start, from) + text;
    const read = withAnswers(typed, references);
    if (read === typed) return false;
    const selection = { anchor: start + read.length };
    view.dispatch({ changes: { from: start, to, insert: read }, selection, userEvent: 'input.type' });
    return true;
  }),
  EditorView.clipboardInputFilter.of(text => withAnswers(text, references)),
  EditorView.clipboardOutputFilter.of(text => readable(text, references)),
];

/** Offers the answers behind an opening brace. */
const offering = (references: Offered[], apart = tellingApart(references)) =>
  autocompletion({
    icons: false,
    // So many fit without scrolling; typing narrows them down.
    maxRenderedOptions: 14,
    override: [
      (context: CompletionContext) => {
        const opened = context.matchBefore(openBrace);
        if (!opened) return null;
        return {
          from: opened.from + 1,
          options: references.map(({ key, label, example }) => ({
            label: apart.get(key) ?? label,
            detail: example?.slice(0, 30) ?? undefined,
            apply: (view: EditorView, _: unknown, from: number, to: number) => {
              const closed = view.state.sliceDoc(to, to + 1) === '}' ? 1 : 0;
              const insert = answerMark(key);
              // The brace that opened the list goes with what was typed behind it.
              view.dispatch({
                changes: { from: from - 1, to: to + closed, insert },
                selection: { anchor: from - 1 + insert.length },
              });
            },
          })),
        };
      },
    ],
  });

/** A text template: answers are chosen from a list that opens at `{`, each one thing that no typing can change. */
export default function TemplateEditor({
  ref,
  label,
  describedBy,
  text,
  references,
  onChange,
}: {
  ref?: Ref<TemplateHandle>;
  label: string;
  describedBy?: string;
  /** Text at first; what is typed is told, and not given back. */
  text: string;
  references: Offered[];
  onChange: (text: string) => void;
}) {
  const place = useRef<HTMLDivElement>(null);
  const view = useRef<EditorView | null>(null);
  const tell = useRef(onChange);
  const answers = useRef(new Compartment());
  const first = useRef({ text, label, describedBy, references });
  useEffect(() => {
    tell.current = onChange;
  }, [onChange]);
  useEffect(() => {
    const { text: doc, label: name, describedBy: by, references: known } = first.current;
    const opened = new EditorView({
      parent: place.current!,
      state: EditorState.create({
        doc,
        extensions: [
          history(),
          keymap.of([...completionKeymap, ...historyKeymap, ...defaultKeymap]),
          EditorView.lineWrapping,
          EditorView.contentAttributes.of({ 'aria-label': name, ...(by && { 'aria-describedby': by }) }),
          EditorView.updateListener.of(update => {
            if (update.docChanged) tell.current(update.state.doc.toString());
          }),
          theme,
          answers.current.of(extensionsFor(known)),
        ],
      }),
    });
    view.current = opened;
    return () => opened.destroy();
  }, []);
  useEffect(() => {
    view.current?.dispatch({ effects: answers.current.reconfigure(extensionsFor(references)) });
  }, [references]);
  useImperativeHandle(ref, () => ({
    insert(key) {
      const at = view.current;
      if (!at) return;
      const { from, to } = at.state.selection.main;
      const insert = answerMark(key);
      at.dispatch({ changes: { from, to, insert }, selection: { anchor: from + insert.length } });
      at.focus();
    },
  }));
  return (
    <div
      ref={place}
      onKeyDown={event => {
        // Escape closes the list of answers first, and the line only then.
        if (event.key === 'Escape' && event.defaultPrevented) event.stopPropagation();
        if (event.key === '{' && view.current) queueMicrotask(() => view.current && startCompletion(view.current));
      }}
    />
  );
}

const extensionsFor = (references: Offered[]) => [chips(references), reading(references), offering(references)];
