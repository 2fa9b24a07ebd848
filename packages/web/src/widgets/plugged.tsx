import { Button } from 'antd';
import { cautionText } from '@jiko/core/safety';

/** What was plugged or unplugged while the strip says that something is on, and what was on. */
export interface Plugged {
  attachment: string;
  isIn: boolean;
  isSourceOn: boolean;
  /** What was on, in words. */
  on: string;
}

/** The entry for it: done under power. */
export const underPowerText = ({ attachment, isIn, on }: Plugged): string =>
  `${attachment} ${isIn ? 'plugged in' : 'unplugged'} under power: ${on}.`;

/** Asks once whether it was done under power, with the caution; one line, no window. */
export function PluggedLine({
  plugged,
  onAnswer,
}: {
  plugged: Plugged;
  onAnswer: (wasUnderPower: boolean) => void;
}) {
  return (
    <div className="plugged" role="alert">
      <span>
        <strong>Caution. </strong>
        {cautionText('plug', {
          isSourceOn: plugged.isSourceOn,
          isBatteryIn: !plugged.isSourceOn,
          attachment: plugged.attachment.toLowerCase(),
        })}
      </span>
      <Button size="small" onClick={() => onAnswer(false)}>
        It was off
      </Button>
      <Button size="small" onClick={() => onAnswer(true)}>
        Done under power: write it down
      </Button>
    </div>
  );
}
