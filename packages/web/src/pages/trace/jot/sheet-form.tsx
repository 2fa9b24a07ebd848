import { Alert, Button, Select } from 'antd';
import { useEffect, useState, type ReactNode } from 'react';
import { warmPlayers } from '../../../data/dictionaries.ts';
import type { JotProps } from './jot-props.ts';
import type { FormProps } from './sheet-fields.tsx';
import { FeedForm, NameForm, NetForm, SplitForm, VoltsForm } from './sheet-net-forms.tsx';
import { ChipForm, FittedForm, PartForm } from './sheet-part-forms.tsx';

const kinds = {
  volts: 'give a net its volts',
  feed: 'what feeds or enables a net',
  part: 'a part between two nets',
  chip: 'a chip by its pins',
  net: 'a net',
  name: 'rename a net, or another name',
  fitted: 'a part is not fitted',
  split: 'a point is not this net',
} as const;
type Kind = keyof typeof kinds;

/** The sheet grows where the work is: each entry is a new version of it. */
export function SheetForm({ board, editing }: JotProps) {
  const [kind, setKind] = useState<Kind>('volts');
  useEffect(() => warmPlayers(board), [board]);
  const Form = forms[kind];
  return (
    <>
      <Select<Kind>
        aria-label="What to put in the sheet"
        value={kind}
        onChange={setKind}
        options={Object.entries(kinds).map(([value, label]) => ({ value: value as Kind, label }))}
      />
      <Form
        key={kind}
        board={board}
        isSaving={editing.isSaving}
        onEdit={async (edit) => (await editing.edit(edit)) !== null}
      />
      {editing.trouble && <Alert type="error" showIcon title={editing.trouble} />}
      {editing.last && (
        <p className="quiet">
          {editing.last.words}.{' '}
          <Button size="small" onClick={() => void editing.last?.undo()}>
            Undo
          </Button>
        </p>
      )}
    </>
  );
}

const forms: Record<Kind, (props: FormProps) => ReactNode> = {
  volts: VoltsForm,
  feed: FeedForm,
  part: PartForm,
  chip: ChipForm,
  net: NetForm,
  name: NameForm,
  fitted: FittedForm,
  split: SplitForm,
};
