import { Empty, Input } from 'antd';
import { useSearchParams } from 'react-router';
import { findWords, type Word } from '@jiko/core/words';
import './words.css';

const rooms: Word['room'][] = ['Rails', 'States', 'Signals', 'Packages', 'Parts', 'Rules of thumb'];

/** Rails, states, signals and rules of thumb, each with its source. */
export function WordsPage() {
  // In the address, so that a link, Back and Reload find it again.
  const [params, setParams] = useSearchParams();
  const wanted = params.get('q') ?? '';
  const found = findWords(wanted);
  return (
    <div className="column words">
      <header>
        <h1>Words</h1>
        <Input
          autoFocus
          allowClear
          size="large"
          aria-label="Search words"
          placeholder="SLP_S3, coin cell, memory"
          style={{ width: 320 }}
          value={wanted}
          onChange={(event) =>
            setParams(event.target.value ? { q: event.target.value } : {}, { replace: true })
          }
        />
      </header>
      {found.length === 0 && <Empty description="No word has that in it." />}
      {rooms.map((room) => {
        const here = found.filter((one) => one.room === room);
        if (here.length === 0) return null;
        return (
          <section key={room}>
            <h2>{room}</h2>
            <dl>
              {here.map((one) => (
                <div key={one.term}>
                  <dt>{one.term}</dt>
                  <dd>
                    {one.says} <span className="quiet">{one.source}</span>
                  </dd>
                </div>
              ))}
            </dl>
          </section>
        );
      })}
    </div>
  );
}
