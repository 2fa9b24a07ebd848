import { Drawer } from 'antd';
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
      </div>
    </Drawer>
  );
}
