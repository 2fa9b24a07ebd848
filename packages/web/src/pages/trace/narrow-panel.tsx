import { Button } from 'antd';
import { useMemo } from 'react';
import type { Board } from '@jiko/core/board';
import { narrowChoices } from '@jiko/core/naming';
import type { Job } from '@jiko/core/record';
import { choicesOf } from '@jiko/core/sheet-edit';
import type { SheetEditing } from '../../data/sheet-edit.ts';
import './naming.css';

/** What the readings say of choices that were left open when the sheet was made. */
export function NarrowPanel({
  board,
  job,
  editing,
}: {
  board: Board;
  job: Job;
  editing: SheetEditing;
}) {
  const choices = useMemo(() => choicesOf(board), [board]);
  const told = useMemo(
    () => (choices ? narrowChoices(board, choices, job.readings) : []),
    [board, choices, job.readings],
  );
  if (!choices || told.length === 0) return null;
  return (
    <section className="narrow" aria-label="What the readings say of this board">
      <h3>What the readings say of this board</h3>
      {told.map(({ question, fits, why }) => (
        <div key={question}>
          <span className="quiet">{why}</span>
          <div className="fits">
            {fits.map(({ id, title }) => (
              <Button
                key={id}
                size="small"
                loading={editing.isSaving}
                onClick={() => void editing.choose({ ...choices, [question]: id })}
              >
                {title}
              </Button>
            ))}
          </div>
        </div>
      ))}
    </section>
  );
}
