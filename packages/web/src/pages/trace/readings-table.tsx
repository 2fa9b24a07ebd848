import { Button } from 'antd';
import { Fragment } from 'react';
import type { JudgedReading } from '@jiko/core/trace';
import { pinText, readingText, valueText, whyText } from '@jiko/core/readings';
import { Strike } from '../../widgets/strike.tsx';
import { VerdictMark } from '../../widgets/verdict-mark.tsx';

/** Every reading, newest first. Nothing is deleted: a reading is struck out or measured again. */
export function ReadingsTable({
  readings,
  onStrike,
  onAgain,
}: {
  readings: readonly JudgedReading[];
  onStrike: (id: string, reason: string) => void;
  onAgain: (reading: JudgedReading) => void;
}) {
  if (readings.length === 0) {
    return (
      <p className="quiet readings">
        No reading yet. Type what the meter shows and press Enter; the next point comes by itself.
      </p>
    );
  }
  /** The net was read at another pin as well: which one it was then says something. */
  const isElsewhereToo = ({ reading: { at } }: JudgedReading): boolean =>
    at.part !== null &&
    at.pin !== null &&
    readings.some(
      ({ reading: other }) =>
        other.at.net === at.net &&
        other.at.part !== null &&
        (other.at.part !== at.part || other.at.pin !== at.pin),
    );
  return (
    <div className="readings">
      <table>
        <thead>
          <tr>
            <th>Net</th>
            <th>Phase</th>
            <th>Reading</th>
            <th>Verdict</th>
            <th />
          </tr>
        </thead>
        <tbody>
          {readings.toReversed().map((one, index, all) => {
            const { standing, reading } = one;
            const isOfOtherSheet = (of: JudgedReading | undefined): boolean =>
              of !== undefined && of.isOfOtherSheet && of.standing.kind !== 'other-board';
            const isFirstOfBefore = isOfOtherSheet(one) && !isOfOtherSheet(all[index - 1]);
            return (
              <Fragment key={one.id}>
                {isFirstOfBefore && (
                  <tr className="sheet-changed">
                    <td colSpan={5} className="quiet">
                      The sheet was changed here: what is below was read before, and is judged by
                      the sheet as it is now.
                    </td>
                  </tr>
                )}
                <tr
                  data-entry={one.id}
                  data-standing={standing.kind}
                  data-verdict={one.verdict.kind}
                  className={
                    ['struck', 'superseded', 'other-board'].includes(standing.kind) ? 'aside' : ''
                  }
                >
                  <td className="mono">
                    {reading.at.net}
                    {isElsewhereToo(one) && (
                      <span className="quiet"> at {pinText(reading.at)}</span>
                    )}
                    {reading.reference && (
                      <span className="quiet"> against {reading.reference.net}</span>
                    )}
                  </td>
                  <td>{reading.phase}</td>
                  <td className="mono value">
                    {readingText(reading)}
                    {reading.mode === 'diode' && ' diode'}
                  </td>
                  <td>
                    {standing.kind === 'stands' ? (
                      <VerdictMark kind={one.verdict.kind} />
                    ) : (
                      <span>
                        {standing.kind === 'struck'
                          ? `struck out: ${standing.reason}`
                          : standing.kind === 'superseded'
                            ? 'measured again'
                            : standing.kind === 'other-board'
                              ? `taken on the sheet of ${standing.board}`
                              : `before the repair: ${one.verdict.kind}`}
                      </span>
                    )}
                    {standing.kind === 'stands' && one.verdict.kind !== 'good' && (
                      <div className="reason quiet">{whyText(one.verdict)}</div>
                    )}
                  </td>
                  <td style={{ whiteSpace: 'nowrap', textAlign: 'right' }}>
                    {standing.kind === 'stands' && (
                      <>
                        <Button type="text" size="small" onClick={() => onAgain(one)}>
                          Again
                        </Button>
                        <Strike
                          of={`${reading.at.net} ${valueText(reading.value, reading.mode)}`}
                          onStrike={(reason) => onStrike(one.id, reason)}
                        />
                      </>
                    )}
                  </td>
                </tr>
              </Fragment>
            );
          })}
        </tbody>
      </table>
    </div>
  );
}
