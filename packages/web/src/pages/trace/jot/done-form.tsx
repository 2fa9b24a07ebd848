import { Alert, Button, Select } from 'antd';
import { useState } from 'react';
import { actionText, repairActions } from '@jiko/core/record';
import { BesideSelect, type Beside } from '../../../widgets/beside-select.tsx';
import type { JotProps } from './jot-props.ts';
import { OwnWords } from './note-form.tsx';
import { partOptions } from './part-options.ts';
import { Several } from '../../../widgets/several.tsx';

type RepairAction = (typeof repairActions)[number];

export function DoneForm({ board, parts: first = [], onRecord }: JotProps) {
  const [action, setAction] = useState<RepairAction>('replaced');
  const [parts, setParts] = useState<string[]>(first);
  const [beside, setBeside] = useState<Beside>('coin-cell');
  const [text, setText] = useState('');
  const isBeside = action === 'beside';
  const [isEmpty, setEmpty] = useState(false);
  const keep = (): void => {
    const nothing = !isBeside && parts.length === 0 && text.trim() === '';
    setEmpty(nothing);
    if (nothing) return;
    onRecord({
      type: 'repair',
      action,
      parts: isBeside ? [] : parts,
      text: text.trim(),
      ...(isBeside ? { beside } : {}),
    });
    setParts([]);
    setText('');
  };
  return (
    <>
      <Select<RepairAction>
        value={action}
        onChange={setAction}
        options={repairActions.map((one) => ({ value: one, label: actionText(one) }))}
        aria-label="What was done"
      />
      {isBeside ? (
        <BesideSelect value={beside} onChange={setBeside} />
      ) : (
        <Several
          placeholder="Parts"
          aria-label="Parts"
          value={parts}
          onChange={setParts}
          options={partOptions(board)}
          onKeep={keep}
        />
      )}
      <OwnWords text={text} onText={setText} onKeep={keep} />
      <Button onClick={keep}>Keep</Button>
      {isEmpty && <Alert type="error" title="Name the part, or say what was done." />}
    </>
  );
}
