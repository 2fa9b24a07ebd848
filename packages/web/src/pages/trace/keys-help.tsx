import { Drawer, Slider, Switch } from 'antd';
import { setSounds, useSounds } from '../../data/sounds.ts';
import { traceKeys, type TraceKey } from './keys.ts';
import './keys-help.css';

const groups: readonly TraceKey['group'][] = [
  'Readings',
  'Where to probe',
  'The bench',
  'Write down',
];

/** Every key of the trace view. */
export function KeysHelp({ isOpen, onClose }: { isOpen: boolean; onClose: () => void }) {
  return (
    <Drawer
      open={isOpen}
      onClose={onClose}
      placement="bottom"
      size={380}
      title="Keys, while the entry line is empty"
      closable
    >
      <div className="keys">
        {groups.map((group) => (
          <section key={group}>
            <h3>{group}</h3>
            <dl>
              {traceKeys
                .filter((one) => one.group === group)
                .map(({ keys, does }) => (
                  <div key={does}>
                    <dt>
                      {keys.map((key) => (
                        <kbd key={key}>{key}</kbd>
                      ))}
                    </dt>
                    <dd>{does}</dd>
                  </div>
                ))}
            </dl>
          </section>
        ))}
        <SoundSettings />
      </div>
    </Drawer>
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
