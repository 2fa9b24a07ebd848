import { useState } from 'react';
import { sendJobPicture } from '../../../data/pictures.ts';
import { PictureButton } from '../../../widgets/picture-button.tsx';
import type { JotProps } from './jot-props.ts';
import { OwnWords } from './note-form.tsx';

export function PictureForm({ job, onRecord }: JotProps) {
  const [text, setText] = useState('');
  return (
    <>
      <OwnWords text={text} onText={setText} placeholder="What the picture shows" />
      <PictureButton
        block
        label="Choose a picture"
        onPicture={async (file) => {
          const { id } = await sendJobPicture(job, file);
          onRecord({ type: 'picture', attachment: id, caption: text.trim() });
          setText('');
        }}
      />
    </>
  );
}
