import { Dropdown } from 'antd';

const reasons = [
  'taken back',
  'typed wrong',
  'probe slipped',
  'wrong point',
  'lead or clip off',
  'not trusted',
];

/** Strikes an entry out, with the reason: by pointer, or by Enter, the arrows and Enter again. */
export function Strike({
  label = 'Strike',
  of,
  onStrike,
}: {
  label?: string;
  /** What is struck, for who hears the page. */
  of: string;
  onStrike: (reason: string) => void;
}) {
  return (
    <Dropdown
      trigger={['click']}
      autoFocus
      menu={{
        items: reasons.map((reason) => ({ key: reason, label: reason })),
        onClick: ({ key }) => onStrike(key),
      }}
    >
      <button type="button" className="strike" aria-label={`${label} ${of}`}>
        {label}
      </button>
    </Dropdown>
  );
}
