import { json } from '@codemirror/lang-json';
import { foldGutter, foldKeymap, HighlightStyle, syntaxHighlighting } from '@codemirror/language';
import { highlightSelectionMatches, openSearchPanel, search, searchKeymap } from '@codemirror/search';
import { EditorState, StateEffect, StateField } from '@codemirror/state';
import { Decoration, EditorView, keymap, type DecorationSet } from '@codemirror/view';
import { tags } from '@lezer/highlight';
import { useEffect, useImperativeHandle, useRef, type Ref } from 'react';

/** What can be done with a text that is shown. */
export interface CodeHandle {
  find(): void;
}

const look = EditorView.theme({
  '&': { backgroundColor: 'transparent', color: 'var(--ink)', fontSize: '0.75rem' },
  '&.cm-focused': { outline: '2px solid var(--oxide)', outlineOffset: '2px' },
  '.cm-scroller': { fontFamily: 'var(--mono)', lineHeight: '1.125rem', overflow: 'auto' },
  '.cm-content': { padding: '0' },
  '.cm-line': { padding: '0' },
  '.cm-gutters': { backgroundColor: 'transparent', border: '0', color: 'var(--ink-3)', width: '0.875rem' },
  '.cm-foldGutter .cm-gutterElement': { cursor: 'pointer', padding: '0' },
  '.cm-foldPlaceholder': {
    backgroundColor: 'var(--oxide-wash)',
    color: 'var(--oxide)',
    border: '0',
    borderRadius: '0',
    padding: '0 0.375rem',
  },
  '.cm-selectionBackground, &.cm-focused .cm-selectionBackground': { backgroundColor: 'var(--oxide-wash)' },
  '.cm-hot': { backgroundColor: 'var(--lapis-wash)', color: 'var(--lapis)' },
  '.cm-searchMatch': { backgroundColor: 'var(--ochre-wash)', outline: '1px solid var(--ochre)' },
  '.cm-searchMatch-selected': { backgroundColor: 'var(--oxide-wash)', outline: '2px solid var(--oxide)' },
  '.cm-panels': { backgroundColor: 'var(--paper-sunk)', color: 'var(--ink)', border: '0' },
  '.cm-panel.cm-search': { padding: '0.375rem 0.5rem', fontFamily: 'var(--sans)', fontSize: '0.8125rem' },
  '.cm-panel.cm-search label': { fontSize: '0.75rem' },
  '.cm-panel.cm-search [name=close]': { color: 'var(--ink)', minWidth: '1.5rem', minHeight: '1.5rem' },
  '.cm-textfield': {
    backgroundColor: 'transparent',
    border: '0',
    borderBottom: '1px solid var(--rule-strong)',
    borderRadius: '0',
    color: 'var(--ink)',
    fontSize: '0.8125rem',
  },
  '.cm-button': {
    backgroundImage: 'none',
    backgroundColor: 'transparent',
    border: '0',
    color: 'var(--oxide)',
    fontWeight: '600',
    textDecoration: 'underline',
    textUnderlineOffset: '3px',
  },
});

const inks = HighlightStyle.define([
  { tag: tags.propertyName, color: 'var(--ink-2)' },
  { tag: [tags.string], color: 'var(--ink)' },
  { tag: [tags.number, tags.bool, tags.null], color: 'var(--lapis)' },
  { tag: [tags.separator, tags.punctuation, tags.brace, tags.squareBracket], color: 'var(--ink-3)' },
]);

/** Lights up the first place that says something. */
const light = StateEffect.define<string | null>();
const hot = Decoration.mark({ tagName: 'mark', class: 'cm-hot', attributes: { 'data-hot': '' } });
const lit = StateField.define<DecorationSet>({
  create: () => Decoration.none,
  update(before, transaction) {
    for (const effect of transaction.effects) {
      if (!effect.is(light)) continue;
      const at = effect.value ? transaction.state.doc.toString().indexOf(effect.value) : -1;
      return at < 0 ? Decoration.none : Decoration.set(hot.range(at, at + effect.value!.length));
    }
    return before.map(transaction.changes);
  },
  provide: field => EditorView.decorations.from(field),
});

/** Room left beside what is brought into view, in px. */
const MARGIN = 24;

/** Brings a place of the text into the view of the box that scrolls it. The page around it stays where it is. */
function bringIntoView(view: EditorView, at: number): void {
  let box = view.dom.parentElement;
  while (box && box.scrollHeight <= box.clientHeight) box = box.parentElement;
  // The page itself is left alone.
  if (!box || box.id === 'place' || !/auto|scroll/.test(getComputedStyle(box).overflowY)) return;
  const outer = box.getBoundingClientRect().top;
  // A line may be wrapped over many: where the place is drawn counts, and that of its line only while it is not drawn yet.
  const drawn = view.coordsAtPos(at);
  const block = view.lineBlockAt(at);
  const [top, bottom] = drawn
    ? [drawn.top - outer, drawn.bottom - outer]
    : [view.documentTop + block.top - outer, view.documentTop + block.bottom - outer];
  if (top < 0) box.scrollBy(0, top - MARGIN);
  else if (bottom > box.clientHeight) box.scrollBy(0, bottom - box.clientHeight + MARGIN);
}

const isJson = (text: string) => /^\s*[[{]/.test(text);

/** A text to be read: lines that belong together fold, Ctrl F finds, one place can be lit up. */
export default function CodeView({
  ref,
  text,
  label,
  mark = null,
}: {
  ref?: Ref<CodeHandle>;
  text: string;
  label: string;
  mark?: string | null;
}) {
  const place = useRef<HTMLDivElement>(null);
  const view = useRef<EditorView | null>(null);
  useEffect(() => {
    const opened = new EditorView({
      parent: place.current!,
      state: EditorState.create({
        doc: text,
        extensions: [
          EditorState.readOnly.of(true),
          EditorView.editable.of(false),
          EditorView.lineWrapping,
          EditorView.contentAttributes.of({
            tabindex: '0',
            'aria-label': label,
            'aria-readonly': 'true',
            role: 'textbox',
            'aria-multiline': 'true',
          }),
          ...(isJson(text) ? [json(), syntaxHighlighting(inks), foldGutter()] : []),
          search({ top: true }),
          highlightSelectionMatches(),
          keymap.of([...searchKeymap, ...foldKeymap]),
          lit,
          look,
        ],
      }),
    });
    view.current = opened;
    return () => {
      opened.destroy();
      view.current = null;
    };
  }, [text, label]);
  useEffect(() => {
    const opened = view.current;
    if (!opened) return;
    opened.dispatch({ effects: light.of(mark) });
    const at = mark ? opened.state.doc.toString().indexOf(mark) : -1;
    if (at >= 0) bringIntoView(opened, at);
  }, [mark, text, label]);
  useImperativeHandle(ref, () => ({ find: () => void (view.current && openSearchPanel(view.current)) }));
  return (
    <div ref={place} onKeyDown={event => event.key === 'Escape' && event.defaultPrevented && event.stopPropagation()} />
  );
}
