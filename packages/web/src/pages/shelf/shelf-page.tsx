import { useQuery } from '@tanstack/react-query';
import { Alert, Button, Input, InputNumber, Segmented, Select, Skeleton, Table } from 'antd';
import { useState } from 'react';
import type { Shelf } from '@jiko/contract';
import type { ShelfItem } from '@jiko/core/record';
import { boardsQuery } from '../../data/queries.ts';
import { shelfQuery, useKeepOnShelf } from '../../data/shelf.ts';

type Row = Shelf[number];
const empty: ShelfItem = {
  kind: 'part',
  what: '',
  board: null,
  marking: '',
  value: '',
  package: '',
  place: '',
  count: 1,
  gone: [],
  note: '',
};

/** Donor boards and loose parts, searched by what a repair needs. */
export function ShelfPage() {
  const shelf = useQuery(shelfQuery);
  const keep = useKeepOnShelf();
  const [wanted, setWanted] = useState('');
  const [trouble, setTrouble] = useState<string | null>(null);
  const put = (id: string, item: ShelfItem): Promise<boolean> =>
    keep(id, item).then(
      () => {
        setTrouble(null);
        return true;
      },
      (error: Error) => {
        setTrouble(error.message);
        return false;
      },
    );
  if (shelf.isError)
    return (
      <div className="column">
        <Alert
          type="error"
          showIcon
          title="The shelf cannot be shown"
          description={shelf.error.message}
        />
      </div>
    );
  if (!shelf.data)
    return (
      <div className="column">
        <Skeleton active />
      </div>
    );
  const words = wanted.toLowerCase().split(/\s+/).filter(Boolean);
  const rows = shelf.data.filter(({ item }) => {
    const text = [
      item.what,
      item.marking,
      item.value,
      item.package,
      item.place,
      item.note,
      item.board,
    ]
      .join(' ')
      .toLowerCase();
    return words.every((one) => text.includes(one));
  });
  return (
    <div className="column">
      <header>
        <h1>Shelf</h1>
        <Input
          allowClear
          aria-label="Search the shelf"
          placeholder="10u 0603, TV3180, Cairn"
          style={{ width: 300 }}
          value={wanted}
          onChange={(event) => setWanted(event.target.value)}
        />
      </header>
      <p className="quiet">
        Donor boards and loose parts of the shop. Repair looks here for what fits. A spare is
        measured before it is fitted.
      </p>
      {trouble && <Alert type="error" showIcon title={trouble} />}
      <NewItem onPut={(item) => put(crypto.randomUUID(), item)} />
      <Table<Row>
        size="small"
        rowKey="id"
        pagination={{ pageSize: 50, hideOnSinglePage: true }}
        dataSource={rows}
        locale={{
          emptyText: (
            <span className="quiet">
              {words.length > 0 ? 'Nothing like that.' : 'Nothing on the shelf yet.'}
            </span>
          ),
        }}
        columns={[
          { title: 'What', render: (_, { item }) => item.what },
          { title: 'Value', className: 'mono', render: (_, { item }) => item.value },
          { title: 'Marking', className: 'mono', render: (_, { item }) => item.marking },
          { title: 'Package', render: (_, { item }) => item.package },
          { title: 'Where', render: (_, { item }) => item.place },
          {
            title: 'Gone from it',
            render: (_, { item }) => <span className="mono">{item.gone.join(', ')}</span>,
          },
          {
            title: 'Count',
            render: (_, { id, item }) => (
              <InputNumber
                size="small"
                aria-label={`Count of ${item.what}`}
                min={0}
                max={100_000}
                value={item.count}
                onChange={(count) => count !== null && void put(id, { ...item, count })}
              />
            ),
          },
        ]}
      />
    </div>
  );
}

function NewItem({ onPut }: { onPut: (item: ShelfItem) => Promise<boolean> }) {
  const [item, setItem] = useState<ShelfItem>(empty);
  const boards = useQuery(boardsQuery);
  const change = (part: Partial<ShelfItem>): void => setItem({ ...item, ...part });
  const isBoard = item.kind === 'board';
  const text = (
    key: 'what' | 'marking' | 'value' | 'package' | 'place',
    hint: string,
    wide = 120,
  ) => (
    <Input
      aria-label={hint}
      placeholder={hint}
      style={{ width: wide }}
      maxLength={key === 'what' ? 120 : 40}
      value={item[key]}
      onChange={(event) => change({ [key]: event.target.value })}
    />
  );
  return (
    <section className="card" aria-label="Put on the shelf">
      <div style={{ display: 'flex', flexWrap: 'wrap', gap: 8, alignItems: 'center' }}>
        <Segmented<ShelfItem['kind']>
          aria-label="Kind of thing on the shelf"
          value={item.kind}
          onChange={(kind) => setItem({ ...item, kind, board: null })}
          options={[
            { value: 'part', label: 'Loose part' },
            { value: 'board', label: 'Donor board' },
          ]}
        />
        {text(
          'what',
          isBoard ? 'Which board, and what is wrong with it' : 'What: capacitor, buck',
          220,
        )}
        {isBoard ? (
          <Select
            aria-label="Its sheet"
            placeholder="its sheet"
            style={{ width: 180 }}
            allowClear
            showSearch={{ optionFilterProp: 'label' }}
            value={item.board}
            onChange={(board: string | undefined) => change({ board: board ?? null })}
            options={(boards.data ?? []).map((one) => ({ value: one.id, label: one.title }))}
          />
        ) : (
          <>
            {text('value', 'Value', 80)}
            {text('marking', 'Marking', 110)}
            {text('package', 'Package', 90)}
          </>
        )}
        {text('place', 'Drawer or box', 120)}
        <InputNumber
          aria-label="How many"
          min={1}
          max={100_000}
          value={item.count}
          onChange={(count) => change({ count: count ?? 1 })}
        />
        <Button
          type="primary"
          disabled={item.what.trim() === ''}
          onClick={() =>
            void onPut({ ...item, what: item.what.trim() }).then((isKept) => {
              if (isKept) setItem({ ...empty, kind: item.kind });
            })
          }
        >
          Put it there
        </Button>
      </div>
    </section>
  );
}
