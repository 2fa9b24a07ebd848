import { useQuery } from '@tanstack/react-query';
import { Alert, Button, Form, Input, Select } from 'antd';
import { useEffect, useMemo } from 'react';
import { useNavigate } from 'react-router';
import { loadSheet } from '@jiko/core/board';
import { intakeSchema, type Intake } from '@jiko/core/record';
import { setBench, useBench } from '../../data/bench.ts';
import { boardQuery, boardsQuery } from '../../data/queries.ts';
import { record } from '../../offline/outbox.ts';

/** What is typed survives a reload until the job is opened. */
const draftKey = 'jiko-new-job';

export function NewJobPage() {
  const [form] = Form.useForm<Intake>();
  const boards = useQuery(boardsQuery);
  const { who } = useBench();
  const navigate = useNavigate();
  const boardId = Form.useWatch('board', form) ?? '';
  const sheet = useQuery(boardQuery(boardId));
  const board = useMemo(() => {
    const loaded = sheet.data ? loadSheet(sheet.data.text) : null;
    return loaded?.ok ? loaded.value : null;
  }, [sheet.data]);

  useEffect(() => {
    form.setFieldsValue(readDraft());
  }, [form]);
  useEffect(() => {
    if (!board) return;
    const { goal, source } = form.getFieldsValue();
    if (!board.goals.some((one) => one.id === goal)) form.setFieldValue('goal', board.goals[0]?.id);
    if (!board.sources.some((one) => one.id === source)) {
      form.setFieldValue('source', board.sources.find((one) => !one.stays)?.id);
    }
  }, [board, form]);

  const open = (values: Intake): void => {
    const intake = intakeSchema.parse({
      ...values,
      history: values.history ?? '',
      keep: values.keep ?? '',
      promised: values.promised || null,
    });
    const id = crypto.randomUUID();
    record(id, who, [{ type: 'intake', intake }], true);
    localStorage.removeItem(draftKey);
    setBench({});
    void navigate(`/jobs/${id}/trace`);
  };

  return (
    <div className="column" style={{ maxWidth: 860 }}>
      <header>
        <h1>New job</h1>
      </header>
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
        layout="vertical"
        requiredMark={false}
        onFinish={open}
        onValuesChange={(_, all) => localStorage.setItem(draftKey, JSON.stringify(all))}
      >
        <div style={{ display: 'grid', gridTemplateColumns: '2fr 1fr', gap: '0 20px' }}>
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
              showSearch={{ optionFilterProp: 'label' }}
              options={(boards.data ?? []).map((one) => ({
                value: one.id,
                label: `${one.title}, revision ${one.revision}`,
              }))}
              notFoundContent="No board sheet yet: add one under Boards."
            />
          </Form.Item>
        </div>
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
        <Form.Item name="history" label="What happened to it" rules={[{ max: 2000 }]}>
          <Input.TextArea
            autoSize={{ minRows: 2 }}
            placeholder="Liquid, frost, drop, lightning, earlier repair, another shop's guess"
          />
        </Form.Item>
        <div style={{ display: 'grid', gridTemplateColumns: '1fr 1fr 1fr', gap: '0 20px' }}>
          <Form.Item
            name="goal"
            label="The board is done when it"
            rules={[{ required: true, message: 'Choose a goal.' }]}
          >
            <Select
              options={(board?.goals ?? []).map((one) => ({ value: one.id, label: one.title }))}
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
            <Input type="date" />
          </Form.Item>
        </div>
        <Form.Item name="keep" label="What is to be kept" rules={[{ max: 500 }]}>
          <Input placeholder="Data, settings, nothing" />
        </Form.Item>
        <Button type="primary" size="large" htmlType="submit">
          Open the job
        </Button>
      </Form>
    </div>
  );
}

function readDraft(): Partial<Intake> {
  try {
    return JSON.parse(localStorage.getItem(draftKey) ?? '{}') as Partial<Intake>;
  } catch {
    return {};
  }
}
