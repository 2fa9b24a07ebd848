import { InputNumber, Input, Segmented, Select } from 'antd';
import { useState } from 'react';
import { findPin, packages, turns, type Package, type Turn } from '@jiko/core/taking-apart';

const usualPins: Record<Package, number> = { SOIC: 8, QFP: 64, QFN: 32, BGA: 144 };

/** Package, pins and how the board lies give where a pin is, drawn to scale. */
export function PinFinder({ wanted }: { wanted: string }) {
  const [pack, setPack] = useState<Package>('QFN');
  const [pins, setPins] = useState(usualPins.QFN);
  const [typed, setTyped] = useState<string | null>(null);
  const [turn, setTurn] = useState<Turn>(0);
  const pin = typed ?? wanted;
  const answer = findPin(pack, pins, pin, turn);
  return (
    <section className="pin-finder" aria-label="Pin finder">
      <div className="asks">
        <label>
          Package
          <Segmented<Package>
            aria-label="Package of the chip"
            value={pack}
            onChange={(next) => {
              setPack(next);
              setPins(usualPins[next]);
            }}
            options={[...packages]}
          />
        </label>
        <label>
          Pins
          <InputNumber
            aria-label="How many pins"
            min={4}
            max={2500}
            value={pins}
            onChange={(next) => setPins(next ?? 0)}
          />
        </label>
        <label>
          Looked for
          <Input
            aria-label="Pin looked for"
            style={{ width: 90 }}
            value={pin}
            onChange={(event) => setTyped(event.target.value)}
          />
        </label>
        <label>
          Pin 1 lies at the
          <Select<Turn>
            aria-label="Where pin 1 lies"
            style={{ width: 150 }}
            value={turn}
            onChange={setTurn}
            options={turns.map((one) => ({ value: one, label: corner[one] }))}
          />
        </label>
      </div>
      {'trouble' in answer ? (
        <p className="quiet">{answer.trouble}</p>
      ) : (
        <div className="found">
          <svg
            role="img"
            aria-label={answer.found.words}
            viewBox={`-0.6 -0.6 ${answer.found.drawing.width + 1.2} ${answer.found.drawing.height + 1.2}`}
          >
            <rect {...answer.found.drawing.body} className="body" />
            <circle
              cx={answer.found.drawing.mark.x}
              cy={answer.found.drawing.mark.y}
              r="0.28"
              className="mark-1"
            />
            {answer.found.drawing.pads.map((pad) => (
              <rect
                key={pad.name}
                x={pad.x - pad.width / 2}
                y={pad.y - pad.height / 2}
                width={pad.width}
                height={pad.height}
                className={pad.name === answer.found.wanted.name ? 'is-wanted' : ''}
              />
            ))}
          </svg>
          <p>
            <strong>{answer.found.words}.</strong>
            <br />
            {answer.found.beside.length > 0 && (
              <span className="quiet">Beside it: pins {answer.found.beside.join(' and ')}. </span>
            )}
            <span className="quiet">
              {answer.found.drawing.width.toFixed(1)} by {answer.found.drawing.height.toFixed(1)}{' '}
              mm, counted against the clock from the mark, seen from above.
            </span>
          </p>
        </div>
      )}
    </section>
  );
}

const corner: Record<Turn, string> = {
  0: 'top left',
  90: 'top right',
  180: 'bottom right',
  270: 'bottom left',
};
