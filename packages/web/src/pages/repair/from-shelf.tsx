import { useQuery } from '@tanstack/react-query';
import { Button } from 'antd';
import { Link } from 'react-router';
import type { Board } from '@jiko/core/board';
import { fitsFromShelf } from '@jiko/core/repair';
import { shelfQuery, useDonorSheets, useKeepOnShelf } from '../../data/shelf.ts';

const mostShown = 4;

/** What the shelf has for a part; taking one counts it down there. */
export function FromShelf({
  board,
  part,
  onTake,
}: {
  board: Board;
  part: string;
  onTake: (taken: { marking: string; isDonor: boolean; text: string }) => void;
}) {
  const shelf = useQuery(shelfQuery).data ?? [];
  const sheets = useDonorSheets(shelf);
  const keep = useKeepOnShelf();
  const fits = fitsFromShelf(
    board,
    part,
    shelf.map((one) => one.item),
    sheets,
  );
  return (
    <div className="from-shelf" aria-label={`On the shelf for ${part}`}>
      <span className="quiet">
        On the <Link to="/shelf">shelf</Link> for {part}:{' '}
      </span>
      {fits.length === 0 && <span className="quiet">nothing that fits.</span>}
      {fits.slice(0, mostShown).map(({ index, ref, why }) => {
        const { id, item } = shelf[index]!;
        const where = [item.what, ref, item.place].filter(Boolean).join(', ');
        return (
          <Button
            key={id}
            size="small"
            title={why}
            onClick={() => {
              void keep(
                id,
                ref === null
                  ? { ...item, count: item.count - 1 }
                  : { ...item, gone: [...item.gone, ref] },
              ).then(
                () =>
                  onTake({
                    marking: item.marking,
                    isDonor: item.kind === 'board',
                    text: `from ${where}`,
                  }),
                // The shelf cannot be reached: the repair is written down all the same.
                () => undefined,
              );
            }}
          >
            Take it: {where} ({why})
          </Button>
        );
      })}
    </div>
  );
}
