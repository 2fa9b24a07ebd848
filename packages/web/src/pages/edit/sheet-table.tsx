import { useLayoutEffect, useMemo, useRef } from 'react';
import {
  createTextColumn,
  DataSheetGrid,
  keyColumn,
  type CellComponent,
  type Column,
} from 'react-datasheet-grid';
import 'react-datasheet-grid/dist/style.css';
import type { SheetRow } from '@jiko/core/sheet-edit';

/** Taken when a cell is left, not letter by letter: half a name is no change. */
const finished = createTextColumn({ continuousUpdates: false });

/** The grid's own cell, named by its column for whoever cannot see the head of it. */
function namedCell(title: string): CellComponent<string | null, unknown> {
  const Cell = finished.component as CellComponent<string | null, unknown>;
  return function NamedCell(cell) {
    const around = useRef<HTMLDivElement>(null);
    useLayoutEffect(() => {
      around.current?.querySelector('input')?.setAttribute('aria-label', title);
    }, []);
    return (
      <div ref={around} className="named-cell">
        <Cell {...cell} />
      </div>
    );
  };
}

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
            ...keyColumn(one.key, { ...finished, component: namedCell(one.title) }),
            title: one.title,
            grow: one.wide ?? 1,
            minWidth: 64 + 44 * ((one.wide ?? 1) - 1),
          }) as Partial<Column<SheetRow>>,
      ),
    [cells],
  );
  const around = useRef<HTMLDivElement>(null);
  useLayoutEffect(() => {
    // It scrolls: whoever has no mouse must get into it.
    around.current?.querySelector('.dsg-container')?.setAttribute('tabindex', '0');
    around.current?.querySelector('.dsg-add-row-input')?.setAttribute('aria-label', 'Rows to add');
  }, []);
  return (
    <div ref={around}>
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
    </div>
  );
}
