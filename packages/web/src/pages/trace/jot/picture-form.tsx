import { Alert, Button, Upload } from 'antd';
import { useState } from 'react';
import { api, attachmentRowSchema, largestAttachmentBytes } from '@jiko/contract';
import { request } from '../../../data/http.ts';
import type { JotProps } from './jot-props.ts';
import { OwnWords } from './note-form.tsx';

const megabytes = (bytes: number): string => `${(bytes / 1024 / 1024).toFixed(0)} MB`;

export function PictureForm({ job, onRecord }: JotProps) {
  const [text, setText] = useState('');
  const [trouble, setTrouble] = useState<string | null>(null);
  const send = async (file: File): Promise<void> => {
    setTrouble(null);
    if (file.size > largestAttachmentBytes) {
      setTrouble(
        `${file.name} has ${megabytes(file.size)}; at most ${megabytes(largestAttachmentBytes)} are taken. Nothing was stored, nothing else is lost.`,
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
    <>
      <OwnWords text={text} onText={setText} placeholder="What the picture shows" />
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
      {trouble && <Alert type="error" title={trouble} />}
    </>
  );
}
