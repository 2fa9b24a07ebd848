import { useQuery } from '@tanstack/react-query';
import { Alert, Button, Select } from 'antd';
import { useMemo, useState } from 'react';
import type { BoardDetail, BoardDocument } from '@jiko/contract';
import type { Board } from '@jiko/core/board';
import { pinTableIn, takePinTable, type Box } from '@jiko/core/schematic';
import { documentIndexQuery } from '../../data/documents.ts';
import { useSheetSave } from '../../data/sheet-save.ts';
import { SheetClash } from '../../widgets/sheet-clash.tsx';

/** Numbers of a chip's pins, read from the table of its data sheet by a box that is marked around it. */
export function PinTablePanel({
  sheet,
  board,
  document,
  marked,
}: {
  sheet: BoardDetail;
  board: Board;
  document: BoardDocument;
  marked: { page: number; box: Box } | null;
}) {
  const loaded = useQuery(documentIndexQuery(document.id));
  const [ref, setRef] = useState<string | null>(null);
  const saving = useSheetSave(sheet.id);
  const content = loaded.data?.pages.find((one) => one.page === marked?.page);
  const rows = useMemo(
    () => (content && marked ? pinTableIn(content, marked.box) : []),
    [content, marked],
  );
  const taken = ref === null ? null : takePinTable(sheet.text, ref, rows);
  const keep = async (): Promise<void> => {
    if (taken?.ok) await saving.save(taken.value.text, sheet.hash);
  };
  return (
    <section className="take-panel" aria-label="Pin table">
      <p>
        Draw a box around the pin table of a data sheet: number and name in each row.
        {marked === null && <span className="quiet"> Nothing marked yet.</span>}
      </p>
      {marked && rows.length === 0 && (
        <Alert type="warning" showIcon title="No row with a number and a name is in this box." />
      )}
      {rows.length > 0 && (
        <>
          <Select
            aria-label="Chip"
            placeholder="Of which chip?"
            style={{ width: '100%' }}
            value={ref}
            showSearch={{ optionFilterProp: 'label' }}
            onChange={setRef}
            options={board.chips
              .filter((one) => !one.virtual)
              .map((one) => ({ value: one.ref as string, label: `${one.ref} ${one.title}` }))}
          />
          <table className="pins">
            <tbody>
              {rows.map((row) => (
                <tr key={`${row.number} ${row.name}`}>
                  <td className="mono">{row.number}</td>
                  <td className="mono">{row.name}</td>
                  <td className="quiet">{row.says.slice(0, 80)}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </>
      )}
      {taken && !taken.ok && <Alert type="error" showIcon title={taken.error.join(' ')} />}
      {taken?.ok && (
        <>
          <p>
            {taken.value.done.length === 0
              ? 'Nothing of it is new to the sheet.'
              : `${taken.value.done.length} pins get their numbers.`}
          </p>
          {taken.value.left.length > 0 && (
            <ul className="quiet">
              {taken.value.left.map((one) => (
                <li key={one}>{one}</li>
              ))}
            </ul>
          )}
          <Button
            type="primary"
            disabled={taken.value.done.length === 0}
            onClick={() => void keep()}
          >
            Keep as a new version of the sheet
          </Button>
        </>
      )}
      <SheetClash saving={saving} />
    </section>
  );
}
