import { useMemo } from 'react';
import { createTextColumn, DataSheetGrid, keyColumn, type Column } from 'react-datasheet-grid';
import 'react-datasheet-grid/dist/style.css';
import type { SheetRow } from '@jiko/core/sheet-edit';

/** Taken when a cell is left, not letter by letter: half a name is no change. */
const finished = createTextColumn({ continuousUpdates: false });

/** One table of a sheet: keyboard entry, paste from a spreadsheet, fill down by the corner of a selection. */
export function SheetTableGrid({
  cells,
  rows,
  height,
  onRows,
  onRow,
}: {
  cells: readonly { key: string; title: string; wide?: number }[];
  rows: SheetRow[];
  height: number;
  onRows: (rows: SheetRow[]) => void;
  /** The row the cursor is in. */
  onRow: (row: SheetRow) => void;
}) {
  const columns = useMemo(
    () =>
      cells.map(
        (one) =>
          ({
            ...keyColumn(one.key, finished),
            title: one.title,
            grow: one.wide ?? 1,
            minWidth: 64 + 44 * ((one.wide ?? 1) - 1),
          }) as Partial<Column<SheetRow>>,
      ),
    [cells],
  );
  return (
    <DataSheetGrid<SheetRow>
      value={rows}
      onChange={onRows}
      onActiveCellChange={({ cell }) => {
        const row = cell && rows[cell.row];
        if (row) onRow(row);
      }}
      columns={columns}
      height={height}
      rowHeight={30}
      headerRowHeight={30}
      createRow={() => ({ was: null })}
      duplicateRow={({ rowData }) => ({ ...rowData, was: null })}
    />
  );
}
