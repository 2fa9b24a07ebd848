import { useQuery } from '@tanstack/react-query';
import { Input, Select } from 'antd';
import { useMemo, useState } from 'react';
import { NavLink, useParams } from 'react-router';
import { sumFills } from '@jiko/core/prepare';
import { formatSum, sums, workSum, type Sum } from '@jiko/core/sums';
import { keptText, useKept } from '../../data/kept.ts';
import { boardQuery, boardsQuery } from '../../data/queries.ts';
import { boardOf } from '../../data/read-sheet.ts';
import './sums.css';

const boardKey = 'jiko-sums-board';

/** Every calculation of the bench on its own page, filled in from a sheet where it applies. */
export function SumsPage() {
  const { id = '' } = useParams();
  const [wanted, setWanted] = useState('');
  const [board, setBoard] = useKept(boardKey, keptText, '');
  const boards = useQuery(boardsQuery);
  const sum = sums.find((one) => one.id === id) ?? sums[0]!;
  const shown = sums.filter((one) =>
    `${one.title} ${one.asks}`.toLowerCase().includes(wanted.toLowerCase()),
  );
  return (
    <div className="sums">
      <nav aria-label="Sums">
        <Input
          allowClear
          aria-label="Search sums"
          placeholder="divider, fuse, 103"
          value={wanted}
          onChange={(event) => setWanted(event.target.value)}
        />
        <label>
          <span className="quiet">Values from the sheet of </span>
          <Select
            aria-label="Values from the sheet of"
            style={{ width: '100%' }}
            value={board}
            showSearch={{ optionFilterProp: 'label' }}
            onChange={setBoard}
            options={[
              { value: '', label: 'no board' },
              ...(boards.data ?? [])
                .filter((one) => !one.archived)
                .map((one) => ({ value: one.id, label: one.title })),
            ]}
          />
        </label>
        <ul>
          {shown.map((one) => (
            <li key={one.id}>
              <NavLink to={`/sums/${one.id}`} className={one === sum ? 'is-here' : ''}>
                {one.title}
              </NavLink>
            </li>
          ))}
          {shown.length === 0 && <li className="quiet">No sum has that in it.</li>}
        </ul>
      </nav>
      <SumView key={sum.id} sum={sum} board={board} />
    </div>
  );
}

function SumView({ sum, board }: { sum: Sum; board: string }) {
  const [typed, setTyped] = useState<Record<string, string>>(() =>
    Object.fromEntries(sum.inputs.map((one) => [one.key, one.usual])),
  );
  const sheet = useQuery({ ...boardQuery(board), enabled: board !== '' });
  const fills = useMemo(() => {
    const read = sheet.data && boardOf(sheet.data);
    return read ? sumFills(read, sum.id) : [];
  }, [sheet.data, sum.id]);
  const worked = workSum(sum, typed);
  return (
    <section aria-label={sum.title} className="sum">
      <h1>{sum.title}</h1>
      <p className="asks">{sum.asks}</p>
      {fills.length > 0 && (
        <Select
          aria-label="Fill in from the sheet"
          placeholder="fill in from the sheet"
          style={{ width: 340 }}
          value={null}
          showSearch={{ optionFilterProp: 'label' }}
          onChange={(label: string | null) => {
            const fill = fills.find((one) => one.label === label);
            if (fill) setTyped({ ...typed, ...fill.typed });
          }}
          options={fills.map((one) => ({ value: one.label, label: one.label }))}
        />
      )}
      <div className="sum-both">
        <div className="given">
          {sum.inputs.map(({ key, title }) => {
            const trouble = worked.ok ? undefined : worked.troubles[key];
            return (
              <label key={key}>
                <span>{title}</span>
                <Input
                  aria-label={title}
                  className="mono"
                  status={trouble ? 'error' : ''}
                  value={typed[key] ?? ''}
                  onChange={(event) => setTyped({ ...typed, [key]: event.target.value })}
                />
                {trouble && <em className="tone-bad">{trouble}</em>}
              </label>
            );
          })}
        </div>
        <div className="answer" aria-live="polite">
          {worked.ok ? (
            <>
              <dl>
                {worked.answer.results.map(({ title, value, unit }) => (
                  <div key={title}>
                    <dt>{title}</dt>
                    <dd className="mono">{formatSum(value, unit)}</dd>
                  </div>
                ))}
              </dl>
              {worked.answer.says.map((one) => (
                <p key={one}>{one}</p>
              ))}
              {worked.answer.cautions.map((one) => (
                <p key={one} className="caution-line" role="note">
                  <strong>Caution. </strong>
                  {one}
                </p>
              ))}
            </>
          ) : (
            <p className="quiet">Worked out once every value can be read.</p>
          )}
        </div>
      </div>
      <dl className="behind">
        <dt>How</dt>
        <dd>{sum.formula}</dd>
        <dt>Source</dt>
        <dd>{sum.source}</dd>
        <dt>Where it ends</dt>
        <dd>{sum.limits}</dd>
      </dl>
    </section>
  );
}
