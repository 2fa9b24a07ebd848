import { Select, type SelectProps } from 'antd';
import { useState, type KeyboardEvent } from 'react';

/**
 * A choice of several from a list, by keyboard: Enter takes what the arrows stand on, Tab goes on to the
 * next field and takes nothing, Ctrl Enter keeps the form.
 */
export function Several({
  onKeep,
  style,
  ...props
}: Omit<SelectProps<string[]>, 'mode' | 'open' | 'onOpenChange'> & { onKeep?: () => void }) {
  const [isOpen, setOpen] = useState(false);
  // Before the list sees the key: it would take its first entry on Tab.
  const keys = (event: KeyboardEvent): void => {
    const isKeep = event.key === 'Enter' && (event.ctrlKey || event.metaKey);
    if (event.key !== 'Tab' && !(isKeep && onKeep)) return;
    event.stopPropagation();
    setOpen(false);
    if (!isKeep) return;
    event.preventDefault();
    onKeep?.();
  };
  return (
    <div onKeyDownCapture={keys} style={style}>
      <Select<string[]>
        {...props}
        mode="multiple"
        style={{ width: '100%' }}
        open={isOpen}
        onOpenChange={setOpen}
      />
    </div>
  );
}
