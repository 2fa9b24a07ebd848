import { Slider, Switch } from 'antd';
import { setSounds, useSounds } from '../../data/sounds.ts';
import { KeysList } from '../../widgets/keys-list.tsx';
import { traceKeys, type TraceKey } from './keys.ts';

const groups: readonly TraceKey['group'][] = [
  'Readings',
  'Where to probe',
  'The bench',
  'Write down',
];

/** Every key of the trace view. */
export function KeysHelp({ isOpen, onClose }: { isOpen: boolean; onClose: () => void }) {
  return (
    <KeysList
      title="Keys, while the entry line is empty"
      groups={groups.map((title) => ({
        title,
        keys: traceKeys.filter((one) => one.group === title),
      }))}
      isOpen={isOpen}
      onClose={onClose}
    >
      <SoundSettings />
    </KeysList>
  );
}

/** What is heard after Enter, for eyes that stay on the microscope. */
function SoundSettings() {
  const { tone, words, volume } = useSounds();
  return (
    <section className="sounds">
      <h3>Heard after Enter</h3>
      <label>
        <Switch size="small" checked={tone} onChange={(on) => setSounds({ tone: on })} />A tone:
        high is good, low is not, twice is not decided
      </label>
      <label>
        <Switch size="small" checked={words} onChange={(on) => setSounds({ words: on })} />
        The next point, its mode and place, where the browser can speak
      </label>
      <Slider
        min={0}
        max={1}
        step={0.05}
        value={volume}
        ariaLabelForHandle="Volume"
        tooltip={{ formatter: null }}
        onChange={(to) => setSounds({ volume: to })}
      />
    </section>
  );
}
