import { Empty, Input } from 'antd';
import { useState } from 'react';
import { findWords, type Word } from '@jiko/core/words';
import './words.css';

const rooms: Word['room'][] = ['Rails', 'States', 'Signals', 'Packages', 'Parts', 'Rules of thumb'];

/** Rails, states, signals and rules of thumb, each with its source. */
export function WordsPage() {
  const [wanted, setWanted] = useState('');
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
          onChange={(event) => setWanted(event.target.value)}
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
