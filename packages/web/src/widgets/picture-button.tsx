import { Alert, Button, Upload, type ButtonProps } from 'antd';
import { useState } from 'react';

/** Chooses one picture and hands it on; what goes wrong with it is said beneath. */
export function PictureButton({
  label,
  onPicture,
  ...look
}: {
  label: string;
  /** Throws with words for the user. */
  onPicture: (file: File) => Promise<void>;
} & Pick<ButtonProps, 'size' | 'block'>) {
  const [trouble, setTrouble] = useState<string | null>(null);
  const [isSending, setSending] = useState(false);
  const take = async (file: File): Promise<void> => {
    setTrouble(null);
    setSending(true);
    try {
      await onPicture(file);
    } catch (error) {
      setTrouble((error as Error).message);
    } finally {
      setSending(false);
    }
  };
  return (
    <>
      <Upload
        accept="image/png,image/jpeg,image/webp"
        showUploadList={false}
        beforeUpload={(file) => {
          void take(file);
          return false;
        }}
      >
        <Button {...look} loading={isSending}>
          {label}
        </Button>
      </Upload>
      {trouble && <Alert type="error" title={trouble} closable onClose={() => setTrouble(null)} />}
    </>
  );
}
