import { useQueryClient } from '@tanstack/react-query';
import { Alert, Button, Popover, Segmented, Upload } from 'antd';
import { useState } from 'react';
import { documentKinds, type BoardDocument } from '@jiko/contract';
import { documentsQuery, sendDocument, takeDocumentBack } from '../../data/documents.ts';

/** Adds documents to a board, and takes them off again. */
export function DocumentsPanel({
  board,
  documents,
}: {
  board: string;
  documents: readonly BoardDocument[];
}) {
  const client = useQueryClient();
  const [kind, setKind] = useState<BoardDocument['kind']>('schematic');
  const [isBusy, setBusy] = useState(false);
  const [said, setSaid] = useState<{ kind: 'success' | 'error'; title: string } | null>(null);
  const run = async (deed: () => Promise<string>): Promise<void> => {
    setBusy(true);
    setSaid(null);
    try {
      setSaid({ kind: 'success', title: await deed() });
      await client.invalidateQueries(documentsQuery(board));
    } catch (error) {
      setSaid({ kind: 'error', title: (error as Error).message });
    } finally {
      setBusy(false);
    }
  };
  const add = (file: File): Promise<void> =>
    run(async () => {
      const { name, pages, pagesWithText } = await sendDocument(board, kind, file);
      return pagesWithText === 0
        ? `${name}: ${pages} pages, all pictures. They are shown, and cannot be searched.`
        : `${name}: ${pages} pages, ${pagesWithText} with text.`;
    });
  return (
    <>
      {said && (
        <Alert
          className="said"
          type={said.kind}
          showIcon
          title={said.title}
          closable={{ onClose: () => setSaid(null) }}
        />
      )}
      {documents.length > 0 && (
        <Popover
          trigger="click"
          placement="bottomRight"
          content={
            <ul className="documents">
              {documents.map((one) => (
                <li key={one.id}>
                  <span>
                    {one.name}
                    <small className="quiet">
                      {' '}
                      {one.kind}, {one.pages} pages, {Math.ceil(one.bytes / 1024)} kB
                      {one.troubles.length > 0 &&
                        ` · ${one.troubles.length} pages could not be read`}
                    </small>
                  </span>
                  <Button
                    size="small"
                    type="text"
                    onClick={() =>
                      void run(async () => {
                        client.setQueryData(
                          documentsQuery(board).queryKey,
                          await takeDocumentBack(one.id),
                        );
                        return `${one.name} is shown no more.`;
                      })
                    }
                  >
                    Take off
                  </Button>
                </li>
              ))}
            </ul>
          }
        >
          <Button>
            {documents.length} document{documents.length > 1 ? 's' : ''}
          </Button>
        </Popover>
      )}
      <Segmented
        aria-label="What the document is"
        value={kind}
        onChange={setKind}
        options={[...documentKinds]}
      />
      <Upload
        accept=".pdf,application/pdf"
        showUploadList={false}
        beforeUpload={(file) => {
          void add(file);
          return false;
        }}
      >
        <Button type="primary" loading={isBusy}>
          Add a PDF
        </Button>
      </Upload>
    </>
  );
}
