import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { Alert, Button, Popconfirm, Skeleton } from 'antd';
import { api, shopSchema, type Shop } from '@jiko/contract';
import { dateText, dateWays, useDateWay, type DateWay } from '../../data/dates.ts';
import { Answers } from '../../widgets/answers.tsx';
import { request } from '../../data/http.ts';
import { shopQuery } from '../../data/queries.ts';
import { ImportJob } from './import-job.tsx';
import './shop.css';

/** The data as a whole: where it lies, its backups, what room is left. */
export function ShopPage() {
  const shop = useQuery(shopQuery);
  const client = useQueryClient();
  const taken = (next: Shop): void => {
    client.setQueryData(shopQuery.queryKey, next);
    void client.invalidateQueries();
  };
  const backUp = useMutation({
    mutationFn: () =>
      request(shopSchema, api.backups, { method: 'POST', timeoutMilliseconds: 600_000 }),
    onSuccess: taken,
  });
  const removeDemo = useMutation({
    mutationFn: () => request(shopSchema, api.demo, { method: 'DELETE' }),
    onSuccess: taken,
  });
  const trouble = shop.error ?? backUp.error ?? removeDemo.error;
  return (
    <div className="column shop">
      <header>
        <h1>Shop</h1>
      </header>
      {trouble && <Alert type="error" showIcon title={trouble.message} />}
      {shop.data?.warnings.map((one) => (
        <Alert key={one} type="warning" showIcon title={one} />
      ))}
      {!shop.data ? (
        shop.isError ? null : (
          <Skeleton active />
        )
      ) : (
        <>
          <section aria-label="Data">
            <h2>Data</h2>
            {shop.data.folder === null ? (
              <p>
                The database is somebody else's server (DATABASE_URL): it is backed up there, not
                from here.
              </p>
            ) : (
              <p>
                Everything lies in <span className="mono">{shop.data.folder}</span>
                {shop.data.freeBytes !== null &&
                  `; ${sizeText(shop.data.freeBytes)} are free there`}
                .
              </p>
            )}
          </section>
          <Dates />
          {shop.data.folder !== null && (
            <Backups
              shop={shop.data}
              folder={shop.data.folder}
              isBusy={backUp.isPending}
              onBackUp={() => backUp.mutate()}
            />
          )}
          <ImportJob />
          <section aria-label="Demo">
            <h2>Demo</h2>
            {shop.data.demo === 'loaded' ? (
              <p>
                The demo jobs and their boards are in.{' '}
                <Popconfirm
                  title="Take the demo jobs and their boards away?"
                  description="Your own jobs, and boards they stand on, stay."
                  okText="Take them away"
                  onConfirm={() => removeDemo.mutate()}
                >
                  <Button loading={removeDemo.isPending}>Remove the demo</Button>
                </Popconfirm>
              </p>
            ) : (
              <p>
                The demo is {shop.data.demo === 'removed' ? 'removed' : 'left out'}.{' '}
                <span className="mono">npm run demo:reset</span> brings it in.
              </p>
            )}
          </section>
        </>
      )}
    </div>
  );
}

function Backups({
  shop,
  folder,
  isBusy,
  onBackUp,
}: {
  shop: Shop;
  folder: string;
  isBusy: boolean;
  onBackUp: () => void;
}) {
  const { backups, last } = shop;
  const [newest] = backups;
  return (
    <section aria-label="Backups">
      <h2>Backups</h2>
      <p>
        One is taken every day while Jiko runs, read back whole, and kept seven deep in{' '}
        <span className="mono">{folder}/backups</span>: on the same disk. Copy one to another place
        now and then.
      </p>
      <p>
        {newest
          ? `The last one that reads back is of ${when(newest.at)}.`
          : 'None was taken yet: the first comes a minute after the start.'}{' '}
        <Button type="primary" loading={isBusy} onClick={onBackUp}>
          Back up now
        </Button>
      </p>
      {last && (
        <p className={last.ok ? 'tone-good' : 'tone-bad'}>
          {when(last.at)}: {last.words}
        </p>
      )}
      {backups.length > 0 && (
        <table className="backups">
          <thead>
            <tr>
              <th>Daily backup</th>
              <th>Taken</th>
              <th>Size</th>
            </tr>
          </thead>
          <tbody>
            {backups.map((one) => (
              <tr key={one.name}>
                <td className="mono">{one.name}</td>
                <td>{when(one.at)}</td>
                <td>{sizeText(one.bytes)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      <p className="quiet">
        To put one back: stop Jiko, then{' '}
        <span className="mono">npx jiko restore FILE --replace</span>. What is there then is set
        aside, not deleted.
      </p>
    </section>
  );
}

/** How days are written in this browser. */
function Dates() {
  const [way, setWay] = useDateWay();
  return (
    <section aria-label="Dates">
      <h2>Dates</h2>
      <Answers<DateWay>
        label="Days and times in this browser"
        value={way}
        options={dateWays.map(({ id, title }) => ({ value: id, label: title }))}
        onAnswer={setWay}
      />
      <p className="quiet">
        As here: {dateText(new Date().toISOString(), 'version')}. Reports and files are not changed
        by it.
      </p>
    </section>
  );
}

const when = (at: string): string => dateText(at, 'moment');

function sizeText(bytes: number): string {
  if (bytes < 1024 ** 2) return `${Math.max(1, Math.round(bytes / 1024))} kB`;
  if (bytes < 1024 ** 3) return `${(bytes / 1024 ** 2).toFixed(1)} MB`;
  return `${(bytes / 1024 ** 3).toFixed(1)} GB`;
}
