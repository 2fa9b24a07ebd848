import { Alert, Button, Input } from 'antd';
import { useState } from 'react';
import type { JotProps } from './jot-props.ts';

export function NoteForm({ onRecord }: JotProps) {
  const [text, setText] = useState('');
  const [isEmpty, setEmpty] = useState(false);
  const keep = (): void => {
    setEmpty(text.trim() === '');
    if (text.trim() === '') return;
    onRecord({ type: 'note', text: text.trim() });
    setText('');
  };
  return (
    <>
      <OwnWords text={text} onText={setText} onKeep={keep} />
      <Button onClick={keep}>Keep</Button>
      {isEmpty && <Alert type="error" title="The note is empty." />}
    </>
  );
}

/** A text field where Ctrl Enter keeps what was written. */
export function OwnWords({
  text,
  placeholder = 'In your own words',
  onText,
  onKeep,
}: {
  text: string;
  placeholder?: string;
  onText: (text: string) => void;
  onKeep?: () => void;
}) {
  return (
    <Input.TextArea
      autoSize={{ minRows: 2, maxRows: 6 }}
      value={text}
      maxLength={1000}
      placeholder={placeholder}
      aria-label="Text"
      onChange={(event) => onText(event.target.value)}
      onPressEnter={(event) => {
        if (!(event.ctrlKey || event.metaKey)) return;
        event.preventDefault();
        onKeep?.();
      }}
    />
  );
}
