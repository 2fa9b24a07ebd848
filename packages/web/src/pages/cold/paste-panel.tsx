import { Button, Input, Segmented } from 'antd';
import { useMemo, useState } from 'react';
import type { Board } from '@jiko/core/board';
import { parseSweepPaste } from '@jiko/core/formats';
import { valueText, type Reading } from '@jiko/core/readings';

/** A table from a spreadsheet or a CSV file: what can be kept, and every row that cannot, by its line. */
export function PastePanel({
  board,
  text: first,
  mode: usual,
  attached,
  onKeep,
  onCancel,
}: {
  board: Board;
  text: string;
  mode: 'ohms' | 'diode';
  attached: readonly string[];
  onKeep: (readings: Reading[]) => void;
  onCancel: () => void;
}) {
  const [text, setText] = useState(first);
  const [mode, setMode] = useState(usual);
  const { rows, troubles } = useMemo(() => parseSweepPaste(board, text, mode), [board, text, mode]);
  const many = (count: number, what: string): string => `${count} ${what}${count === 1 ? '' : 's'}`;
  return (
    <div className="probe is-cold paste" aria-label="Paste a table" role="group">
      <div className="sweep-head">
        <span className="why">
          Point and value, or point, mode and value; or columns named net, ohms, diode. Tabs,
          semicolons and commas are understood.
        </span>
        <label>
          <span className="quiet">without a mode: </span>
          <Segmented
            aria-label="Mode where none is given"
            size="small"
            value={mode}
            onChange={setMode}
            options={[
              { value: 'ohms', label: 'Ω' },
              { value: 'diode', label: 'diode' },
            ]}
          />
        </label>
      </div>
      <Input.TextArea
        aria-label="Table of readings"
        autoFocus
        className="mono"
        autoSize={{ minRows: 4, maxRows: 9 }}
        value={text}
        placeholder={'VMAIN\t45k\n3V3_ALW\t900'}
        onChange={(event) => setText(event.target.value)}
      />
      {troubles.length > 0 && (
        <div className="paste-troubles" role="alert">
          <strong>{many(troubles.length, 'row')} cannot be read:</strong>
          <ul>
            {troubles.map((one) => (
              <li key={`${one.line} ${one.text}`}>
                Line {one.line}: {one.text}
              </li>
            ))}
          </ul>
        </div>
      )}
      {rows.length > 0 && (
        <div className="paste-rows quiet">
          {rows.slice(0, 6).map(({ line, reading }) => (
            <span key={`${line} ${reading.mode}`}>
              {reading.at.net} {valueText(reading.value, reading.mode)}
              {reading.mode === 'diode' ? ' diode' : ''}
            </span>
          ))}
          {rows.length > 6 && <span>and {rows.length - 6} more</span>}
        </div>
      )}
      <div className="paste-do">
        <Button
          type="primary"
          disabled={rows.length === 0}
          onClick={() =>
            onKeep(rows.map(({ reading }) => ({ ...reading, attached: [...attached] })))
          }
        >
          {troubles.length > 0
            ? `Keep the ${many(rows.length, 'reading')}, leave ${many(troubles.length, 'row')} out`
            : `Keep ${many(rows.length, 'reading')}`}
        </Button>
        <Button onClick={onCancel}>Back to the sweep</Button>
      </div>
    </div>
  );
}
