import type { NetId } from '@jiko/core/board';
import type { Trace, TracedStage } from '@jiko/core/trace';
import { valueText } from '@jiko/core/readings';
import { StageMark } from '../../widgets/verdict-mark.tsx';

/** The stages in the order of waking, with what is proven of each. */
export function Ladder({
  trace,
  here,
  onPick,
}: {
  trace: Trace;
  here: NetId | null;
  onPick: (net: NetId) => void;
}) {
  const path = trace.stages.filter((one) => one.onPath);
  const branches = trace.stages.filter((one) => !one.onPath);
  const up = path.filter((one) => one.state === 'up').length;
  const rung = (one: TracedStage) => (
    <Rung
      key={one.stage.id}
      stage={one}
      isHere={here !== null && one.stage.gives.includes(here)}
      onPick={onPick}
    />
  );
  return (
    <section className="ladder" aria-label="Stages">
      <h2>
        {up} of {path.length} stages read as up
      </h2>
      <ol>{path.map(rung)}</ol>
      {branches.length > 0 && (
        <>
          <h2 style={{ marginTop: 14 }}>Beside the way to the goal</h2>
          <ol>{branches.map(rung)}</ol>
        </>
      )}
    </section>
  );
}

function Rung({
  stage,
  isHere,
  onPick,
}: {
  stage: TracedStage;
  isHere: boolean;
  onPick: (net: NetId) => void;
}) {
  const read = stage.nets.filter((one) => one.status.kind !== 'unread');
  const first = stage.nets.find((one) => one.status.kind === 'unread') ?? stage.nets[0];
  return (
    <li>
      <button
        type="button"
        className={`rung is-${stage.state}${isHere ? ' is-here' : ''}${stage.onPath ? '' : ' is-branch'}`}
        aria-current={isHere ? 'step' : undefined}
        onClick={() => first && onPick(first.net)}
      >
        <span className="rail">
          <StageMark state={stage.state} />
        </span>
        <span className="body">
          {stage.stage.title}
          {(isHere || read.length > 0) && (
            <span className="values">
              {stage.nets.map(({ net, status }) => (
                <div key={net}>
                  {net}{' '}
                  {status.kind !== 'unread' && (
                    <span className="volts">
                      {valueText(status.reading.reading.value, status.reading.reading.mode)}
                    </span>
                  )}
                </div>
              ))}
            </span>
          )}
        </span>
      </button>
    </li>
  );
}
