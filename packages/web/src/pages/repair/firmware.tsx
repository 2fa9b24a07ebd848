import { Button, Checkbox, InputNumber, Select, Upload } from 'antd';
import { useState } from 'react';
import { api } from '@jiko/contract';
import { netOf, type Board } from '@jiko/core/board';
import type { EventInput, Job } from '@jiko/core/record';
import { dateText } from '../../data/dates.ts';
import { lookAtFirmware, sendFirmware } from '../../data/firmware.ts';

/** A flash programmed: its volts, its old contents saved first, what was written read back. */
export function Firmware({
  job,
  board,
  onRecord,
}: {
  job: string;
  board: Board;
  onRecord: (...bodies: EventInput[]) => string[];
}) {
  const flashes = board.chips.filter((one) => one.kind === 'flash');
  const [part, setPart] = useState<string | null>(flashes[0]?.ref ?? null);
  const flash = flashes.find((one) => one.ref === part);
  const supply = flash?.pins.get('VCC');
  const rail = supply === undefined ? null : netOf(board, supply);
  const [volts, setVolts] = useState<number | null>(rail?.volts ?? null);
  const [saved, setSaved] = useState<{ file: File; sha256: string } | null>(null);
  const [isSending, setSending] = useState(false);
  const [hasFailed, setFailed] = useState(false);
  const [verified, setVerified] = useState(false);
  const [said, say] = useState<string | null>(null);
  if (flashes.length === 0) return <p className="quiet">The sheet names no flash.</p>;
  const also = rail
    ? [...board.chips, ...board.parts]
        .filter((one) =>
          'behaviours' in one
            ? one.ref !== part && [...one.pins.values()].includes(rail.id)
            : one.kind !== 'capacitor' && one.pins.some((pin) => pin.net === rail.id),
        )
        .map((one) => one.ref)
    : [];
  const take = async (chosen: File): Promise<void> => {
    const looked = await lookAtFirmware(chosen);
    if (looked.trouble !== null) return say(looked.trouble);
    say(looked.doubt);
    setSaved({ file: chosen, sha256: looked.sha256 });
  };
  /** With the file itself where the server takes it; without it by hash alone, where one says so. */
  const keep = async (withFile: boolean): Promise<void> => {
    if (part === null || volts === null) return;
    if (!saved)
      return say('Save the old contents first: identity and settings of the board live in them.');
    setSending(true);
    try {
      const kept = withFile ? await sendFirmware(job, saved.file, saved.sha256) : null;
      onRecord({
        type: 'firmware',
        part,
        volts,
        saved: {
          name: saved.file.name.slice(0, 200),
          sha256: saved.sha256,
          bytes: saved.file.size,
        },
        attachment: kept?.id ?? null,
        verified,
        text: '',
      });
      setSaved(null);
      setVerified(false);
      setFailed(false);
      say(null);
    } catch (error) {
      setFailed(true);
      say((error as Error).message);
    } finally {
      setSending(false);
    }
  };
  return (
    <div className="firmware" aria-label="Firmware">
      <div className="log-line">
        <Select
          aria-label="Flash"
          style={{ width: 220 }}
          value={part}
          onChange={setPart}
          options={flashes.map((one) => ({
            value: one.ref as string,
            label: `${one.ref} · ${one.title}`,
          }))}
        />
        <InputNumber
          aria-label="Volts of the programmer"
          placeholder="programmer, V"
          min={0}
          max={6}
          step={0.1}
          value={volts}
          onChange={setVolts}
        />
        <Upload
          showUploadList={false}
          beforeUpload={(file) => {
            void take(file).catch(() => say('This file cannot be read.'));
            return false;
          }}
        >
          <Button>{saved ? 'Another file' : 'Old contents, as saved'}</Button>
        </Upload>
        <Checkbox checked={verified} onChange={(event) => setVerified(event.target.checked)}>
          read back and compared
        </Checkbox>
        <Button
          disabled={part === null || volts === null}
          loading={isSending}
          onClick={() => void keep(true)}
        >
          Write down
        </Button>
        {hasFailed && saved && (
          <Button onClick={() => void keep(false)}>Write down without the file</Button>
        )}
      </div>
      {rail && (
        <p
          className={
            volts !== null && rail.volts !== null && volts > rail.volts * 1.05
              ? 'tone-bad'
              : 'quiet'
          }
        >
          {part} runs from {rail.id}
          {rail.volts === null ? '' : `, ${rail.volts} V: the programmer gives no more than that`}.
          {also.length > 0 && ` A clip feeds these too: ${also.join(', ')}.`} It explains a board
          that does not start its code; no rail that is missing.
        </p>
      )}
      {saved && (
        <p className="quiet">
          {saved.file.name}, {saved.file.size} bytes, SHA-256 {saved.sha256.slice(0, 16)}… goes into
          the record, and the file itself with it.
        </p>
      )}
      {said && <p className="tone-bad">{said}</p>}
    </div>
  );
}

/** Old contents that were saved, each to be had again as the file it was. */
export function KeptFirmware({
  job,
  onRecord,
}: {
  job: Job;
  onRecord: (...bodies: EventInput[]) => string[];
}) {
  const kept = job.firmware.filter((one) => one.struck === null);
  if (kept.length === 0) return null;
  return (
    <ul className="done-list" aria-label="Old contents">
      {kept.map(({ id, who, at, body: { part, saved, attachment, verified } }) => (
        <li key={id}>
          <span className="mono">{part}</span> programmed
          {verified ? ', read back and compared' : ', not read back'}
          {saved && (
            <>
              {': old contents '}
              {attachment === null ? (
                <>{saved.name}, its file not kept here</>
              ) : (
                <a href={api.attachmentFile(attachment)}>{saved.name}</a>
              )}{' '}
              <span className="quiet">SHA-256 {saved.sha256.slice(0, 16)}…</span>
            </>
          )}{' '}
          <span className="quiet">
            {who}, {dateText(at, 'entry')}
          </span>{' '}
          <button
            type="button"
            className="strike"
            onClick={() => onRecord({ type: 'strike', event: id, reason: 'not done' })}
          >
            strike out
          </button>
        </li>
      ))}
    </ul>
  );
}
