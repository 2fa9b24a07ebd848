import { Drawer } from 'antd';
import type { ReactNode } from 'react';
import './keys-list.css';

/** A key as it stands on the keyboard, and what it does. */
export interface KeyLine {
  keys: readonly string[];
  does: string;
}

/** Keys of a view in their groups, at the foot of the page. */
export function KeysList({
  title,
  groups,
  isOpen,
  onClose,
  children,
}: {
  title: string;
  groups: readonly { title: string; keys: readonly KeyLine[] }[];
  isOpen: boolean;
  onClose: () => void;
  children?: ReactNode;
}) {
  return (
    <Drawer open={isOpen} onClose={onClose} placement="bottom" size={380} title={title} closable>
      <div className="keys">
        {groups.map((group) => (
          <section key={group.title}>
            <h3>{group.title}</h3>
            <dl>
              {group.keys.map(({ keys, does }) => (
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
        {children}
      </div>
    </Drawer>
  );
}
