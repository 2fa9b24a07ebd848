import { Alert, Button, InputNumber, Select } from 'antd';
import { useState } from 'react';
import type { EventBody, Seen } from '@jiko/core/record';
import { SeenFields } from '../../../widgets/seen-fields.tsx';
import type { JotProps } from './jot-props.ts';

type Sign = Extract<EventBody, { type: 'sign' }>;
const shapes = ['steady', 'pulsing', 'limited', 'rising'] as const;
const nothing: Seen = {};

/** What is seen from outside in the phase the bench strip shows: the draw, lights, fan and so on. */
export function SeenForm({ board, phase, onRecord }: JotProps) {
  const [amps, setAmps] = useState<number | null>(null);
  const [shape, setShape] = useState<Sign['drawShape']>('steady');
  const [seen, setSeen] = useState<Seen>(nothing);
  const [isEmpty, setEmpty] = useState(false);
  const keep = (): void => {
    const empty = amps === null && Object.keys(seen).length === 0;
    setEmpty(empty);
    if (empty) return;
    onRecord({
      type: 'sign',
      phase,
      drawAmps: amps,
      drawShape: amps === null ? null : shape,
      seen,
      text: '',
    });
    setAmps(null);
    setSeen(nothing);
  };
  const cold = phase === 'cold';
  return (
    <>
      <div className="sign-draw">
        <InputNumber
          style={{ width: '100%' }}
          min={0}
          max={50}
          step={0.01}
          value={amps}
          disabled={cold}
          onChange={setAmps}
          suffix="A"
          placeholder={cold ? 'source off' : `drawn in ${phase}`}
          aria-label="Draw in amps"
          onPressEnter={keep}
        />
        <Select
          value={shape}
          disabled={cold}
          onChange={setShape}
          options={shapes.map((value) => ({ value, label: value }))}
          aria-label="How it draws"
        />
      </div>
      <SeenFields board={board} seen={seen} onSeen={setSeen} />
      <Button onClick={keep}>Keep</Button>
      {isEmpty && <Alert type="error" title="Say at least one thing that was seen." />}
    </>
  );
}
