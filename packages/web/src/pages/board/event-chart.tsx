import {
  ResponsiveContainer,
  Scatter,
  ScatterChart,
  Tooltip,
  XAxis,
  YAxis,
  ReferenceLine,
} from 'recharts';
import type { PlayEvent } from '@jiko/core/play';

/** Who does what, when: one row per chip, a dot per event. */
export function EventChart({
  events,
  pressedAtSeconds,
}: {
  events: readonly PlayEvent[];
  pressedAtSeconds: number;
}) {
  const chips = [...new Set(events.map((event) => chipOf(event.by)))];
  const dots = events.map((event) => ({
    milliseconds: event.atSeconds * 1000,
    row: chips.indexOf(chipOf(event.by)),
    text: `${event.by} ${event.what}`,
  }));
  return (
    <section aria-label="Timeline of events" style={{ height: 56 + chips.length * 14 }}>
      <ResponsiveContainer width="100%" height="100%">
        <ScatterChart margin={{ top: 12, right: 24, bottom: 4, left: 0 }}>
          <XAxis
            type="number"
            dataKey="milliseconds"
            unit=" ms"
            domain={[0, 'dataMax']}
            tickFormatter={(value: number) => String(Math.round(value))}
            stroke="var(--quiet)"
          />
          <YAxis
            type="number"
            dataKey="row"
            reversed
            domain={[-0.5, chips.length - 0.5]}
            ticks={chips.map((_, row) => row)}
            tickFormatter={(row: number) => chips[row] ?? ''}
            interval={0}
            width={110}
            stroke="var(--quiet)"
            tick={{ fontSize: 11 }}
          />
          <ReferenceLine
            x={pressedAtSeconds * 1000}
            stroke="#e69f00"
            strokeWidth={2}
            label={{ value: 'button', position: 'top', fill: 'var(--quiet)', fontSize: 12 }}
          />
          <Tooltip
            cursor={false}
            content={({ payload }) => {
              const dot = payload?.[0]?.payload as (typeof dots)[number] | undefined;
              return dot ? (
                <div className="chart-tip">
                  <span className="mono">{dot.milliseconds.toFixed(2)} ms</span> {dot.text}
                </div>
              ) : null;
            }}
          />
          <Scatter data={dots} fill="var(--cold)" isAnimationActive={false} />
        </ScatterChart>
      </ResponsiveContainer>
    </section>
  );
}

const chipOf = (by: string): string => (/^[A-Z]+\d+ /.test(by) ? (by.split(' ')[0] ?? by) : by);
