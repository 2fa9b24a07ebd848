import { Button, Input, Segmented, Space } from 'antd';
import { useState } from 'react';
import { Link } from 'react-router';
import { type PicturePlace, findingKinds, type EventInput } from '@jiko/core/record';
import type { Trace } from '@jiko/core/trace';
import type { HealthyBoard } from '@jiko/core/expectations';
import { shortExpectation } from '@jiko/core/readings';
import { pinText, findChip, findPart } from '@jiko/core/board';
import { sendJobPicture } from '../../data/pictures.ts';
import { PictureButton } from '../../widgets/picture-button.tsx';
import { VerdictMark } from '../../widgets/verdict-mark.tsx';
import { findingText, type FindingKind } from './finding-mark.tsx';
import { lastRead, readText } from '../../widgets/last-read.ts';
import type { Spot } from './picture-places.ts';

/** What was clicked: a part, or a spot on the picture where none is. */
export interface Marked {
  part: string | null;
  at: (PicturePlace & { frame: string }) | null;
}

/** The part that was clicked, what is known on its pins, and what is seen on it. */
export function PartPanel({
  job,
  healthy,
  trace,
  marked,
  spot,
  side,
  frame,
  isPlacing,
  onPlacing,
  onUnplace,
  onRecord,
  onPoint,
}: {
  job: string;
  healthy: HealthyBoard;
  trace: Trace;
  marked: Marked | null;
  /** Where the part is on the picture shown; null where it is not on it. */
  spot: Spot | null;
  side: PicturePlace['side'];
  frame: string;
  isPlacing: boolean;
  onPlacing: (is: boolean) => void;
  onUnplace: (ref: string) => void;
  onRecord: (body: EventInput) => void;
  /** Makes the spot a point of one's own on the sheet; false where it was not made. */
  onPoint: (title: string) => Promise<boolean>;
}) {
  const [text, setText] = useState('');
  const [closeUp, setCloseUp] = useState<string | null>(null);
  const { board } = healthy;
  if (!marked)
    return (
      <div className="card">
        <h2>Mark what is seen</h2>
        <p className="quiet">
          Click a part on the picture or find it by name: corrosion, burns, cracks, missing parts,
          bridges, earlier work. A finding raises suspicion; it convicts none alone.
        </p>
      </div>
    );
  const chip = findChip(board, marked.part);
  const part = findPart(board, marked.part);
  const point = board.points.find((one) => one.id === marked.part);
  const owner = part ?? chip;
  const pins = part
    ? part.pins.map((pin) => [pin.name, pin.net] as const)
    : point
      ? [[`${point.part ?? ''} ${point.pin ?? ''}`.trim(), point.net] as const]
      : [...(chip?.pins ?? new Map())].map(([name, net]) => [name, net] as const);
  const mark = (kind: FindingKind): void =>
    onRecord({
      type: 'finding',
      kind,
      // What is seen at a point is seen at its part.
      part: point ? point.part : marked.part,
      place: marked.at ?? (spot && { side, u: spot.u, v: spot.v, frame }),
      attachment: closeUp,
      text: text.trim(),
    });
  return (
    <div className="card" aria-label="Part" role="group">
      <header>
        <h2>
          {marked.part ?? 'This spot'}{' '}
          <small className="quiet">{owner?.title ?? point?.title}</small>
        </h2>
        {marked.part !== null && (
          <span>
            <Button
              size="small"
              type={isPlacing ? 'primary' : 'default'}
              onClick={() => onPlacing(!isPlacing)}
            >
              {spot ? 'Move it' : 'Place it here'}
            </Button>
            {spot?.how === 'placed' && (
              <Button size="small" type="text" onClick={() => onUnplace(spot.ref)}>
                Take off
              </Button>
            )}
          </span>
        )}
      </header>
      {marked.part === null && <OwnPoint onPoint={onPoint} />}
      {point && (
        <p>
          <Link to={`/jobs/${job}/trace?point=${point.id}`}>Read {point.id} in Trace</Link>
        </p>
      )}
      {owner && !owner.fitted && (
        <p className="unfitted">Not fitted by design on this board: its empty pads are right.</p>
      )}
      {pins.length > 0 && (
        <table className="pins">
          <tbody>
            {pins
              .filter(([, net]) => net !== board.ground)
              .slice(0, 12)
              .map(([name, net]) => {
                const last = lastRead(trace, net);
                return (
                  <tr key={name}>
                    <td className="quiet">{owner ? pinText(board, owner.ref, name) : name}</td>
                    <td className="mono">{net}</td>
                    <td className="mono">
                      {last
                        ? readText(last)
                        : shortExpectation(healthy.expect(net, 'volts', 'run'))}
                    </td>
                    <td>
                      {last ? (
                        <VerdictMark kind={last.verdict.kind} />
                      ) : (
                        <span className="quiet">expected running</span>
                      )}
                    </td>
                  </tr>
                );
              })}
          </tbody>
        </table>
      )}
      <Input
        aria-label="How it looks"
        placeholder="How it looks"
        maxLength={400}
        value={text}
        onChange={(event) => setText(event.target.value)}
      />
      <div className="close-up">
        <PictureButton
          size="small"
          label={closeUp ? 'Another close-up' : 'Close-up'}
          onPicture={async (file) => setCloseUp((await sendJobPicture(job, file)).id)}
        />
        {closeUp && <span className="tone-good">kept, goes with the mark</span>}
      </div>
      <Segmented<FindingKind | ''>
        className="kinds"
        aria-label="What is seen"
        value=""
        options={findingKinds.map((value) => ({ value, label: findingText[value] }))}
        onChange={(kind) => kind !== '' && mark(kind)}
      />
    </div>
  );
}

/** A spot becomes a point that can be read, long before anybody knows its net. */
function OwnPoint({ onPoint }: { onPoint: (title: string) => Promise<boolean> }) {
  const [title, setTitle] = useState('');
  const [isMaking, setMaking] = useState(false);
  const make = async (): Promise<void> => {
    if (title.trim() === '') return;
    setMaking(true);
    await onPoint(title.trim());
    setMaking(false);
  };
  return (
    <Space.Compact block>
      <Input
        aria-label="A point of your own here"
        placeholder="a point of your own: coil beside the memory"
        maxLength={80}
        value={title}
        onChange={(event) => setTitle(event.target.value)}
        onPressEnter={() => void make()}
      />
      <Button loading={isMaking} disabled={title.trim() === ''} onClick={() => void make()}>
        Make it a point
      </Button>
    </Space.Compact>
  );
}
