import { Input, Modal } from 'antd';
import { useState } from 'react';
import { eventBodySchema } from '@jiko/core/record';
import { tryAgain } from '../offline/outbox.ts';
import type { Refused } from '../offline/waiting-store.ts';

/** A refused entry as it was written, to be put right and sent again. */
export default function MendEntry({ refused, onClose }: { refused: Refused; onClose: () => void }) {
  const [text, setText] = useState(JSON.stringify(refused.entry.event.body, null, 2));
  const read = readBody(text);
  return (
    <Modal
      open
      title="Mend what the server refused"
      okText="Send it again"
      okButtonProps={{ disabled: !read.ok }}
      onOk={() => {
        if (!read.ok) return;
        tryAgain(refused, read.body);
        onClose();
      }}
      onCancel={onClose}
    >
      <p>{refused.words}</p>
      <Input.TextArea
        aria-label="The entry"
        value={text}
        autoSize={{ minRows: 6, maxRows: 18 }}
        onChange={(event) => setText(event.target.value)}
      />
      {!read.ok && <p className="tone-bad">{read.words}</p>}
    </Modal>
  );
}

function readBody(text: string) {
  try {
    const body = eventBodySchema.safeParse(JSON.parse(text));
    if (body.success) return { ok: true as const, body: body.data };
    const [issue] = body.error.issues;
    return { ok: false as const, words: `${issue?.path.join('.')}: ${issue?.message}` };
  } catch (error) {
    return { ok: false as const, words: (error as Error).message };
  }
}
