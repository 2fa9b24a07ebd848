import { Alert, Button, Space } from 'antd';
import type { SheetSave } from '../data/sheet-save.ts';

const mostLines = 8;

/** A sheet that somebody else saved in between: what differs, and the ways on. */
export function SheetClash({
  saving,
  onLaid,
}: {
  saving: SheetSave;
  /** Told the version it is kept under. */
  onLaid?: (hash: string) => void;
}) {
  const { clash, trouble, isSaving } = saving;
  return (
    <>
      {trouble && <Alert type="error" showIcon title={trouble} />}
      {clash && (
        <Alert
          type="warning"
          showIcon
          title="The sheet was changed meanwhile: nothing was saved"
          description={
            <div className="sheet-clash">
              {clash.theirs && <Lines title="Changed since" lines={clash.theirs} />}
              <Lines
                title={
                  clash.theirs ? 'Yours, laid over it, changes' : 'With yours in its place, changes'
                }
                lines={clash.mine}
              />
              {clash.theirs && clash.clashes > 0 && (
                <p>
                  {clash.clashes === 1 ? 'One place was' : `${clash.clashes} places were`} changed
                  by both: there yours stands.
                </p>
              )}
              <Space>
                <Button
                  type="primary"
                  size="small"
                  autoFocus
                  loading={isSaving}
                  onClick={() =>
                    void saving.layOver().then((hash) => hash !== null && onLaid?.(hash))
                  }
                >
                  Lay mine over it
                </Button>
                <Button size="small" onClick={saving.leave}>
                  Not now
                </Button>
              </Space>
            </div>
          }
        />
      )}
    </>
  );
}

function Lines({ title, lines }: { title: string; lines: readonly string[] }) {
  return (
    <div>
      <strong>{title}: </strong>
      {lines.length === 0 ? 'nothing but its wording.' : ''}
      <ul>
        {lines.slice(0, mostLines).map((line) => (
          <li key={line}>{line}</li>
        ))}
        {lines.length > mostLines && <li>and {lines.length - mostLines} more</li>}
      </ul>
    </div>
  );
}
