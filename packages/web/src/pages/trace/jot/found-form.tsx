import { Alert, Button, Select } from 'antd';
import { useState } from 'react';
import { findingKinds } from '@jiko/core/record';
import type { JotProps } from './jot-props.ts';
import { OwnWords } from './note-form.tsx';
import { partOptions } from './part-options.ts';

type FindingKind = (typeof findingKinds)[number];

/** Something seen on the board: it raises suspicion of the part there. */
export function FoundForm({ board, onRecord }: JotProps) {
  const [kind, setKind] = useState<FindingKind>('corrosion');
  const [part, setPart] = useState<string | null>(null);
  const [text, setText] = useState('');
  const [isEmpty, setEmpty] = useState(false);
  const keep = (): void => {
    const nothing = part === null && text.trim() === '';
    setEmpty(nothing);
    if (nothing) return;
    onRecord({ type: 'finding', kind, part, text: text.trim() });
    setPart(null);
    setText('');
  };
  return (
    <>
      <Select<FindingKind>
        value={kind}
        onChange={setKind}
        options={findingKinds.map((one) => ({ value: one, label: one.replace('-', ' ') }))}
        aria-label="What was found"
      />
      <Select
        showSearch={{ optionFilterProp: 'label' }}
        allowClear
        placeholder="At which part"
        aria-label="Part"
        value={part}
        onChange={(next) => setPart(next ?? null)}
        options={partOptions(board)}
      />
      <OwnWords text={text} onText={setText} onKeep={keep} placeholder="Where, how it looks" />
      <Button onClick={keep}>Keep</Button>
      {isEmpty && <Alert type="error" title="Name the part, or say where it is." />}
    </>
  );
}
