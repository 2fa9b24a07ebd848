import { Alert, Button, Select } from 'antd';
import { useState } from 'react';
import type { Board } from '@jiko/core/board';
import type { SheetEdit } from '@jiko/core/sheet-edit';

// What the forms that put something into the sheet share.

export interface FormProps {
  board: Board;
  isSaving: boolean;
  /** False: it was not done, what is typed stays. */
  onEdit: (edit: SheetEdit) => Promise<boolean>;
}

export function NetField({
  board,
  label,
  value,
  onChange,
  clearable = false,
}: {
  board: Board;
  label: string;
  value: string | null;
  onChange: (net: string | null) => void;
  clearable?: boolean;
}) {
  return (
    <Select<string>
      aria-label={label}
      placeholder={label}
      value={value}
      allowClear={clearable}
      showSearch={{ optionFilterProp: 'label' }}
      onChange={(net: string | undefined) => onChange(net ?? null)}
      options={board.nets.map((net) => ({
        value: net.id as string,
        label: [net.id, ...net.aliases, net.title].filter(Boolean).join(' · '),
      }))}
    />
  );
}

/** The button of a form, which says what is still missing instead of doing nothing. */
export function Keep({
  isSaving,
  missing,
  onKeep,
}: {
  isSaving: boolean;
  missing: string | null;
  onKeep: () => void;
}) {
  const [isAsked, setAsked] = useState(false);
  return (
    <>
      <Button
        loading={isSaving}
        onClick={() => {
          setAsked(missing !== null);
          if (missing === null) onKeep();
        }}
      >
        Put it in the sheet
      </Button>
      {isAsked && missing && <Alert type="error" title={missing} />}
    </>
  );
}
