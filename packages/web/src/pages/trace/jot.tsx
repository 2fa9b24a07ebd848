import { Alert, Button, Input, InputNumber, Segmented, Select, Upload } from 'antd';
import { useState } from 'react';
import { api, attachmentRowSchema, largestAttachmentBytes } from '@jiko/contract';
import type { Board } from '@jiko/core/board';
import type { Phase } from '@jiko/core/readings';
import { repairActions, type EventBody } from '@jiko/core/record';
import { request } from '../../data/http.ts';

type Kind = 'note' | 'repair' | 'draw' | 'picture';
type RepairAction = (typeof repairActions)[number];

/** Everything that is not a reading: a note, what was done, the draw, a picture. */
export function Jot({
  job,
  board,
  phase,
  onRecord,
}: {
  job: string;
  board: Board;
  phase: Phase;
  onRecord: (body: EventBody) => void;
}) {
  const [kind, setKind] = useState<Kind>('note');
  const [text, setText] = useState('');
  const [parts, setParts] = useState<string[]>([]);
  const [action, setAction] = useState<RepairAction>('replaced');
  const [amps, setAmps] = useState<number | null>(null);
  const [trouble, setTrouble] = useState<string | null>(null);

  const keep = (): void => {
    setTrouble(null);
    if (kind === 'note') {
      if (text.trim() === '') return setTrouble('The note is empty.');
      onRecord({ type: 'note', text: text.trim() });
    } else if (kind === 'repair') {
      if (parts.length === 0 && text.trim() === '') {
        return setTrouble('Name the part, or say what was done.');
      }
      onRecord({ type: 'repair', action, parts, text: text.trim() });
    } else {
      if (amps === null) return setTrouble('Type the amps at the input.');
      onRecord({ type: 'sign', phase, drawAmps: amps, drawShape: 'steady', text: text.trim() });
    }
    setText('');
    setParts([]);
    setAmps(null);
  };

  const send = async (file: File): Promise<void> => {
    setTrouble(null);
    if (file.size > largestAttachmentBytes) {
      setTrouble(
        `${file.name} has ${(file.size / 1024 / 1024).toFixed(0)} MB; at most ${largestAttachmentBytes / 1024 / 1024} MB are taken. Nothing was stored, nothing else is lost.`,
      );
      return;
    }
    const form = new FormData();
    const id = crypto.randomUUID();
    form.append('id', id);
    form.append('file', file);
    try {
      await request(attachmentRowSchema, api.jobAttachments(job), { method: 'POST', body: form });
      onRecord({ type: 'picture', attachment: id, caption: text.trim() });
      setText('');
    } catch (error) {
      setTrouble(`${file.name} was not stored. ${(error as Error).message}`);
    }
  };

  return (
    <div className="jot">
      <h2>Write down</h2>
      <Segmented<Kind>
        block
        size="small"
        value={kind}
        onChange={(next) => {
          setKind(next);
          setTrouble(null);
        }}
        options={[
          { value: 'note', label: 'Note' },
          { value: 'repair', label: 'Done' },
          { value: 'draw', label: 'Draw' },
          { value: 'picture', label: 'Picture' },
        ]}
      />
      <div style={{ display: 'grid', gap: 8, marginTop: 8 }}>
        {kind === 'repair' && (
          <>
            <Select<RepairAction>
              value={action}
              onChange={setAction}
              options={repairActions.map((one) => ({ value: one, label: one }))}
              aria-label="What was done"
            />
            <Select
              mode="multiple"
              placeholder="Parts"
              aria-label="Parts"
              value={parts}
              onChange={setParts}
              options={[...board.parts, ...board.chips.filter((chip) => !chip.virtual)].map(
                (one) => ({
                  value: one.ref as string,
                  label: one.title ? `${one.ref} ${one.title}` : one.ref,
                }),
              )}
            />
          </>
        )}
        {kind === 'draw' && (
          <InputNumber
            style={{ width: '100%' }}
            min={0}
            max={50}
            step={0.01}
            value={amps}
            onChange={setAmps}
            suffix="A at the input"
            placeholder={`in ${phase}`}
            aria-label="Draw in amps"
          />
        )}
        <Input.TextArea
          autoSize={{ minRows: 2, maxRows: 6 }}
          value={text}
          maxLength={1000}
          placeholder={kind === 'picture' ? 'What the picture shows' : 'In your own words'}
          aria-label="Text"
          onChange={(event) => setText(event.target.value)}
        />
        {kind === 'picture' ? (
          <Upload
            accept="image/png,image/jpeg,image/webp"
            showUploadList={false}
            beforeUpload={(file) => {
              void send(file);
              return false;
            }}
          >
            <Button block>Choose a picture</Button>
          </Upload>
        ) : (
          <Button onClick={keep}>Keep</Button>
        )}
        {trouble && <Alert type="error" title={trouble} />}
      </div>
    </div>
  );
}
