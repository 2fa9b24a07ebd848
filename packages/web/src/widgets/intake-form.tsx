import { useQuery } from '@tanstack/react-query';
import { Alert, Button, Checkbox, Form, Input, InputNumber, Select } from 'antd';
import { useEffect, useMemo, useState } from 'react';
import { z } from 'zod';
import { choosableGoals, loadSheet } from '@jiko/core/board';
import {
  composeSheetText,
  nothingChosen,
  unknownBoardSchema,
  type UnknownBoard,
} from '@jiko/core/first-sheet';
import { historyKinds, intakeSchema, type Intake } from '@jiko/core/record';
import { keep, kept } from '../data/kept.ts';
import { boardQuery, boardsQuery } from '../data/queries.ts';
import { UnknownBoardFields } from './first-sheet/choice-fields.tsx';

const historyText: Record<(typeof historyKinds)[number], string> = {
  liquid: 'liquid',
  frost: 'frost or damp',
  drop: 'a drop',
  lightning: 'lightning',
  bite: 'a bite',
  wear: 'wear, dust',
  'earlier-repair': 'earlier repair',
  'not-known': 'not known',
};

/**
 * What is written down when a board comes in, or corrected later. Everything typed is kept under
 * `draftKey` until it is handed on; Ctrl Enter hands it on from any field.
 */
export function IntakeForm({
  draftKey,
  before,
  label,
  trouble = null,
  onIntake,
  onCancel,
}: {
  draftKey: string;
  /** What is there already; null for a new job. */
  before: Intake | null;
  label: string;
  /** Why it could not be handed on; what was typed stays. */
  trouble?: string | null;
  /** False: it was not taken. `unknown`: a board that is not in the list, for a new job only. */
  onIntake: (intake: Intake, unknown: UnknownBoard | null) => void | Promise<boolean>;
  onCancel?: () => void;
}) {
  const [form] = Form.useForm<Intake>();
  const boards = useQuery(boardsQuery);
  const boardId = Form.useWatch('board', form) ?? '';
  const device = Form.useWatch('device', form) ?? '';
  const [unknown, setUnknown] = useState<UnknownBoard>(() => readUnknown(draftKey));
  const isUnknown = boardId === unknownBoard;
  const happened = Form.useWatch('happened', form) ?? [];
  const sheet = useQuery(boardQuery(isUnknown ? '' : boardId));
  const text = isUnknown
    ? composeSheetText({ ...unknown, title: unknown.title || 'board' }, 'board')
    : sheet.data?.text;
  const board = useMemo(() => {
    const loaded = text === undefined ? null : loadSheet(text);
    return loaded?.ok ? loaded.value : null;
  }, [text]);
  const changeUnknown = (next: UnknownBoard): void => {
    setUnknown(next);
    keep(unknownKey(draftKey), next);
  };

  useEffect(() => {
    form.setFieldsValue({ ...before, ...readDraft(draftKey) });
  }, [form, before, draftKey]);
  useEffect(() => {
    if (!board) return;
    const { goal, source } = form.getFieldsValue();
    const goals = choosableGoals(board);
    if (!goals.some((one) => one.id === goal)) form.setFieldValue('goal', goals[0]?.id);
    if (!board.sources.some((one) => one.id === source)) {
      form.setFieldValue('source', board.sources.find((one) => !one.stays)?.id);
    }
  }, [board, form]);

  const finish = async (values: Partial<Intake>): Promise<void> => {
    const texts = [
      'history',
      'earlierRepair',
      'otherGuess',
      'cameWith',
      'lacking',
      'keep',
    ] as const;
    const intake = intakeSchema.parse({
      ...values,
      ...Object.fromEntries(texts.map((name) => [name, values[name] ?? before?.[name] ?? ''])),
      limitText: values.limitText ?? '',
      happened: values.happened ?? [],
      limitMinutes: values.limitMinutes ?? null,
      limitMoney: values.limitMoney ?? null,
      promised: values.promised || null,
    });
    const title = unknown.title.trim() || intake.device.slice(0, 80);
    const taken = await onIntake(intake, isUnknown ? { ...unknown, title } : null);
    if (taken === false) return;
    keep(draftKey, null);
    keep(unknownKey(draftKey), null);
  };

  return (
    <>
      {boards.isError && (
        <Alert
          type="error"
          showIcon
          title="The boards cannot be shown"
          description={boards.error.message}
        />
      )}
      <Form<Intake>
        form={form}
        className="intake"
        layout="vertical"
        requiredMark={false}
        onFinish={(values) => void finish(values)}
        onValuesChange={(_, all) => keep(draftKey, all)}
        onKeyDown={(event) => {
          if (event.key === 'Enter' && (event.ctrlKey || event.metaKey)) {
            event.preventDefault();
            form.submit();
          }
        }}
      >
        <div className="fields is-two-one">
          <Form.Item
            name="device"
            label="Device"
            rules={[
              { required: true, whitespace: true, message: 'Say which device this is.' },
              { max: 120 },
            ]}
          >
            <Input autoFocus placeholder="Cairn 14 from Skell Hut" />
          </Form.Item>
          <Form.Item
            name="board"
            label="Board"
            rules={[{ required: true, message: 'Choose its board.' }]}
          >
            <Select
              showSearch={{
                // The way for a board nobody knows stays, whatever is typed, behind what matches.
                filterOption: (typed, option) =>
                  option?.value === unknownBoard ||
                  (option?.label ?? '').toLowerCase().includes(typed.toLowerCase()),
                filterSort: (a, b, { searchValue }) =>
                  searchValue === ''
                    ? 0
                    : Number(a.value === unknownBoard) - Number(b.value === unknownBoard),
              }}
              options={[
                ...(before === null
                  ? [{ value: unknownBoard, label: 'Not in the list: a board nobody knows' }]
                  : []),
                ...(boards.data ?? [])
                  .filter((one) => !one.archived || one.id === before?.board)
                  .map((one) => ({
                    value: one.id,
                    label: `${one.title}, revision ${one.revision}`,
                  })),
              ]}
              notFoundContent={
                before === null
                  ? 'No such board. Take "Not in the list" for one nobody knows.'
                  : 'No board sheet yet: add one under Boards.'
              }
            />
          </Form.Item>
        </div>
        {isUnknown && (
          <UnknownBoardFields {...unknown} placeholder={device} onChange={changeUnknown} />
        )}
        <Form.Item
          name="complaint"
          label="Complaint, in the owner's words"
          rules={[
            { required: true, whitespace: true, message: 'Write what the owner says.' },
            { max: 2000 },
          ]}
        >
          <Input.TextArea autoSize={{ minRows: 2 }} placeholder="Does nothing, no light." />
        </Form.Item>
        <Form.Item name="happened" label="What happened to it">
          <Checkbox.Group
            options={historyKinds.map((value) => ({ value, label: historyText[value] }))}
          />
        </Form.Item>
        <div className="fields is-halves">
          <Form.Item name="history" label="When and how" rules={[{ max: 2000 }]}>
            <Input.TextArea autoSize={{ minRows: 1 }} placeholder="Sweet tea, an hour ago" />
          </Form.Item>
          <Form.Item
            name="otherGuess"
            label="What another workshop thinks: a guess"
            rules={[{ max: 500 }]}
          >
            <Input.TextArea autoSize={{ minRows: 1 }} />
          </Form.Item>
        </div>
        {happened.includes('earlier-repair') && (
          <Form.Item
            name="earlierRepair"
            label="Earlier repair: by whom in general, and what was done"
            rules={[{ max: 500 }]}
          >
            <Input placeholder="A friend of the keeper brushed it clean" />
          </Form.Item>
        )}
        <div className="fields is-halves">
          <Form.Item name="cameWith" label="Came with" rules={[{ max: 300 }]}>
            <Input placeholder="Adapter, bag" />
          </Form.Item>
          <Form.Item name="lacking" label="Missing" rules={[{ max: 300 }]}>
            <Input placeholder="Battery, two screws" />
          </Form.Item>
        </div>
        <div className="fields is-thirds">
          <Form.Item
            name="goal"
            label="The board is done when it"
            rules={[{ required: true, message: 'Choose a goal.' }]}
          >
            <Select
              options={(board ? choosableGoals(board) : []).map((one) => ({
                value: one.id,
                label: one.title,
              }))}
            />
          </Form.Item>
          <Form.Item
            name="source"
            label="Source"
            rules={[{ required: true, message: 'Choose a source.' }]}
          >
            <Select
              options={(board?.sources ?? [])
                .filter((one) => !one.stays)
                .map((one) => ({ value: one.id, label: one.title }))}
            />
          </Form.Item>
          <Form.Item name="promised" label="Promised for">
            <Input
              type="date"
              // Space opens the browser's own calendar, which takes Ctrl Enter for a day.
              onKeyDown={(event) => event.key === ' ' && event.preventDefault()}
            />
          </Form.Item>
          <Form.Item name="keep" label="Data to be kept" rules={[{ max: 500 }]}>
            <Input placeholder="Data, settings, nothing" />
          </Form.Item>
          <Form.Item name="limitMinutes" label="Agreed working time">
            <InputNumber
              min={0}
              max={10_000}
              precision={0}
              suffix="min"
              style={{ width: '100%' }}
            />
          </Form.Item>
          <Form.Item name="limitMoney" label="Agreed for parts">
            <InputNumber min={0} max={1_000_000} precision={2} style={{ width: '100%' }} />
          </Form.Item>
          <Form.Item name="limitText" label="Agreed limit in words" rules={[{ max: 200 }]}>
            <Input placeholder="No more than a new one is worth" />
          </Form.Item>
        </div>
        {trouble && (
          <Alert
            type="error"
            showIcon
            title="The job is not open yet"
            description={trouble}
            style={{ marginBottom: 12 }}
          />
        )}
        <Button type="primary" size="large" htmlType="submit">
          {label}
        </Button>{' '}
        {onCancel && <Button onClick={onCancel}>Leave it as it was</Button>}
        <span className="quiet"> Ctrl Enter from any field</span>
      </Form>
    </>
  );
}

/** Stands in the list of boards for one that is not in it. */
const unknownBoard = '?';
const unknownKey = (draftKey: string): string => `${draftKey}-board`;

function readUnknown(draftKey: string): UnknownBoard {
  const draft = kept<Record<string, unknown>>(unknownKey(draftKey), someDraft, {});
  const title = typeof draft['title'] === 'string' ? draft['title'] : '';
  const read = unknownBoardSchema.safeParse({ ...draft, title: title || '-' });
  return read.success
    ? { ...read.data, title }
    : { title: '', marking: '', choices: nothingChosen };
}

/** Half of a form as it was typed: its fields are checked when it is handed on. */
const someDraft = z.record(z.string(), z.unknown());
const readDraft = (key: string): Partial<Intake> =>
  kept<Record<string, unknown>>(key, someDraft, {}) as Partial<Intake>;
