import { Select } from 'antd';
import { besideText, besideThings } from '@jiko/core/record';

export type Beside = (typeof besideThings)[number];

/** What was changed that is not on the board. */
export function BesideSelect({
  value,
  onChange,
}: {
  value: Beside;
  onChange: (value: Beside) => void;
}) {
  return (
    <Select<Beside>
      aria-label="What it was"
      style={{ minWidth: 150 }}
      value={value}
      onChange={onChange}
      options={besideThings.map((one) => ({ value: one, label: besideText[one] }))}
    />
  );
}
