import { autocompletion, completionKeymap, startCompletion, type CompletionContext } from '@codemirror/autocomplete';
import { defaultKeymap, history, historyKeymap } from '@codemirror/commands';
import { Compartment, EditorState } from '@codemirror/state';
import {
  Decoration,
  EditorView,
  keymap,
  MatchDecorator,
  ViewPlugin,
  type DecorationSet,
  type ViewUpdate,
} from '@codemirror/view';
import { useEffect, useImperativeHandle, useRef, type Ref } from 'react';
import type { Offered } from '../../workbench';

/** What can be done to the text from outside. */
export interface TemplateHandle {
  /** Puts an answer in where the cursor is. */
  insert(label: string): void;
}

/** Answers stand in braces, doubled braces are text. */
const pieces = /\{\{|\}\}|\{[^{}]+\}/g;

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

/** Marks the answers in the text, and those that nobody asks. */
function marking(isKnown: (label: string) => boolean) {
  const [answer, stranger] = [Decoration.mark({ class: 'cm-answer' }), Decoration.mark({ class: 'cm-stranger' })];
  const matcher = new MatchDecorator({
    regexp: pieces,
    decoration: ([piece]) => (piece.length === 2 ? null : isKnown(piece.slice(1, -1)) ? answer : stranger),
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
    { decorations: plugin => plugin.decorations },
  );
}

/** Offers the answers behind an opening brace. */
const offering = (references: Offered[]) =>
  autocompletion({
    icons: false,
    // So many fit without scrolling; typing narrows them down.
    maxRenderedOptions: 14,
    override: [
      (context: CompletionContext) => {
        const opened = context.matchBefore(/\{[^{}]*$/);
        if (!opened) return null;
        return {
          from: opened.from + 1,
          options: references.map(({ label, example }) => ({
            label,
            detail: example?.slice(0, 30) ?? undefined,
            apply: (view: EditorView, _: unknown, from: number, to: number) => {
              const closed = view.state.sliceDoc(to, to + 1) === '}' ? 1 : 0;
              view.dispatch({
                changes: { from, to: to + closed, insert: `${label}}` },
                selection: { anchor: from + label.length + 1 },
              });
            },
          })),
        };
      },
    ],
  });

/** A text in which answers stand in braces: picked from a list that opens at `{`, and told apart from the text around them. */
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
  /** The text at first; what is typed is told, and not given back. */
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
    insert(answer) {
      const at = view.current;
      if (!at) return;
      const { from, to } = at.state.selection.main;
      at.dispatch({ changes: { from, to, insert: `{${answer}}` }, selection: { anchor: from + answer.length + 2 } });
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

const extensionsFor = (references: Offered[]) => {
  const known = new Set(references.flatMap(each => [each.label, each.key]));
  return [marking(label => known.has(label)), offering(references)];
};
