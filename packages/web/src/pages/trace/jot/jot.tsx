import { Segmented } from 'antd';
import { DoneForm } from './done-form.tsx';
import type { JotProps } from './jot-props.ts';
import { FoundForm } from './found-form.tsx';
import { NoteForm } from './note-form.tsx';
import { PictureForm } from './picture-form.tsx';
import { SeenForm } from './seen-form.tsx';
import { SheetForm } from './sheet-form.tsx';
import './jot.css';

export const jotKinds = ['note', 'done', 'seen', 'found', 'picture', 'sheet'] as const;
export type JotKind = (typeof jotKinds)[number];
const labels: Record<JotKind, string> = {
  note: 'Note',
  done: 'Done',
  seen: 'Signs',
  found: 'Found',
  picture: 'Photo',
  sheet: 'Sheet',
};

/** Everything that is not a reading: a note, what was done, signs, findings, a picture, the sheet itself. */
export function Jot({
  kind,
  onKind,
  ...props
}: JotProps & {
  /** `by` tells whether a key opened it: then its first field takes the typing. */
  kind: { kind: JotKind; by: 'key' | 'pointer'; parts?: string[] };
  onKind: (kind: JotKind) => void;
}) {
  const Form = forms[kind.kind];
  return (
    <div className="jot" aria-label="Write down" role="group">
      <h2>Write down</h2>
      <Segmented<JotKind>
        aria-label="Kind of entry"
        block
        size="small"
        value={kind.kind}
        onChange={onKind}
        options={jotKinds.map((value) => ({ value, label: labels[value] }))}
      />
      <div
        className="jot-form"
        key={`${kind.kind} ${kind.parts?.join(' ')}`}
        ref={kind.by === 'key' ? focusFirst : null}
      >
        <Form {...props} parts={kind.parts} />
      </div>
    </div>
  );
}

const forms: Record<JotKind, (props: JotProps) => React.ReactNode> = {
  note: NoteForm,
  done: DoneForm,
  seen: SeenForm,
  found: FoundForm,
  picture: PictureForm,
  sheet: SheetForm,
};

const focusFirst = (form: HTMLDivElement | null): void => {
  form?.querySelector<HTMLElement>('input, textarea, button')?.focus();
};
