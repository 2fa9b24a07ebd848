import { autocompletion, type CompletionContext } from '@codemirror/autocomplete';
import { defaultKeymap, history, historyKeymap, redo, undo } from '@codemirror/commands';
import { yaml } from '@codemirror/lang-yaml';
import {
  bracketMatching,
  foldGutter,
  foldKeymap,
  HighlightStyle,
  indentOnInput,
  syntaxHighlighting,
} from '@codemirror/language';
import { lintGutter, setDiagnostics } from '@codemirror/lint';
import { highlightSelectionMatches, searchKeymap } from '@codemirror/search';
import { EditorState, Transaction } from '@codemirror/state';
import {
  EditorView,
  highlightActiveLine,
  keymap,
  lineNumbers,
  type ViewUpdate,
} from '@codemirror/view';
import { tags } from '@lezer/highlight';
import { useEffect, useImperativeHandle, useRef, type Ref } from 'react';

/** The colours of the bench, by day and by night. */
const colours = HighlightStyle.define([
  { tag: [tags.propertyName, tags.definition(tags.propertyName)], color: 'var(--cold)' },
  { tag: tags.string, color: 'var(--good)' },
  { tag: tags.comment, color: 'var(--quiet)', fontStyle: 'italic' },
  { tag: [tags.separator, tags.punctuation], color: 'var(--quiet)' },
]);

export interface SheetEditorHandle {
  undo: () => void;
  redo: () => void;
  /** Puts the cursor on a line and shows it. */
  goTo: (line: number) => void;
}

/**
 * The sheet as text. It holds the history: what the tables change comes in as a change of its own and is
 * taken back like one that was typed.
 */
export function SheetEditor({
  text,
  onText,
  issues,
  words,
  handle,
}: {
  text: string;
  onText: (text: string) => void;
  issues: readonly { line: number; text: string; stops: boolean }[];
  /** Names and keys that are offered while typing. */
  words: () => readonly { label: string; detail: string }[];
  handle: Ref<SheetEditorHandle>;
}) {
  const place = useRef<HTMLDivElement>(null);
  const view = useRef<EditorView | null>(null);
  const latest = useRef({ onText, words });
  useEffect(() => {
    latest.current = { onText, words };
  });

  useEffect(() => {
    const made = new EditorView({
      parent: place.current as HTMLDivElement,
      state: EditorState.create({
        extensions: [
          lineNumbers(),
          foldGutter(),
          lintGutter(),
          history(),
          yaml(),
          indentOnInput(),
          bracketMatching(),
          highlightActiveLine(),
          highlightSelectionMatches(),
          syntaxHighlighting(colours),
          autocompletion({ override: [(context) => complete(context, latest.current.words())] }),
          keymap.of([...defaultKeymap, ...historyKeymap, ...searchKeymap, ...foldKeymap]),
          EditorView.contentAttributes.of({ 'aria-label': 'The sheet as text', tabindex: '0' }),
          EditorView.updateListener.of((update: ViewUpdate) => {
            const isOurs = update.transactions.some((one) => one.annotation(Transaction.remote));
            if (update.docChanged && !isOurs) latest.current.onText(update.state.doc.toString());
          }),
        ],
      }),
    });
    view.current = made;
    return () => made.destroy();
  }, []);

  useEffect(() => {
    const here = view.current;
    if (!here) return;
    const now = here.state.doc.toString();
    if (now === text) return;
    const isFirst = now === '';
    here.dispatch({
      changes: smallestChange(now, text),
      annotations: [
        Transaction.remote.of(true),
        // The sheet as it was opened is nothing to take back.
        ...(isFirst ? [Transaction.addToHistory.of(false)] : []),
      ],
    });
  }, [text]);

  useEffect(() => {
    const here = view.current;
    if (!here) return;
    const { doc } = here.state;
    here.dispatch(
      setDiagnostics(
        here.state,
        issues.map((issue) => {
          const line = doc.line(Math.min(Math.max(1, issue.line), doc.lines));
          return {
            from: line.from,
            to: line.to,
            severity: issue.stops ? ('error' as const) : ('warning' as const),
            message: issue.text,
          };
        }),
      ),
    );
  }, [issues]);

  useImperativeHandle(handle, () => ({
    undo: () => view.current && undo(view.current),
    redo: () => view.current && redo(view.current),
    goTo: (number) => {
      const here = view.current;
      if (!here) return;
      const line = here.state.doc.line(Math.min(Math.max(1, number), here.state.doc.lines));
      here.dispatch({ selection: { anchor: line.from }, scrollIntoView: true });
      here.focus();
    },
  }));

  return <div className="sheet-text" ref={place} />;
}

/** What lies between the same beginning and the same end: the cursor stays where it was. */
function smallestChange(before: string, after: string) {
  let from = 0;
  const least = Math.min(before.length, after.length);
  while (from < least && before[from] === after[from]) from++;
  let end = 0;
  while (end < least - from && before.at(-1 - end) === after.at(-1 - end)) end++;
  return { from, to: before.length - end, insert: after.slice(from, after.length - end) };
}

function complete(context: CompletionContext, words: readonly { label: string; detail: string }[]) {
  const word = context.matchBefore(/[\w+#./-]+/);
  if (!word && !context.explicit) return null;
  return {
    from: word?.from ?? context.pos,
    options: words.map((one) => ({ ...one, type: 'text' })),
    validFor: /^[\w+#./-]*$/,
  };
}
