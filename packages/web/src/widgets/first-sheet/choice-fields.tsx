import { Checkbox, Input, InputNumber } from 'antd';
import { branches, leftOpen, questions, type Choices } from '@jiko/core/first-sheet';
import { ChoiceDrawing } from './choice-drawing.tsx';
import './first-sheet.css';

/** The handful of choices a first sheet is made from. Each may be left open. */
export function ChoiceFields({
  choices,
  onChange,
}: {
  choices: Choices;
  onChange: (choices: Choices) => void;
}) {
  return (
    <div className="choices">
      {questions.map(({ id, title, asks, options }) => {
        const all: readonly { id: string; title: string; tell: string }[] = options;
        const chosen = all.find((one) => one.id === choices[id]);
        return (
          <fieldset key={id}>
            <legend>
              {title} <span className="quiet">{asks}</span>
            </legend>
            <div className="options">
              <label className="is-open">
                <input
                  type="radio"
                  name={id}
                  checked={choices[id] === null}
                  onChange={() => onChange({ ...choices, [id]: null })}
                />
                Not known yet
              </label>
              {all.map((one) => (
                <label key={one.id} title={one.tell}>
                  <input
                    type="radio"
                    name={id}
                    checked={choices[id] === one.id}
                    onChange={() => onChange({ ...choices, [id]: one.id })}
                  />
                  <ChoiceDrawing of={`${id}:${one.id}`} />
                  <span>{one.title}</span>
                </label>
              ))}
            </div>
            {chosen && <p className="quiet">{chosen.tell}</p>}
            <details>
              <summary>How each looks on the board</summary>
              <dl className="tells">
                {all.map(({ id: option, title: name, tell }) => (
                  <div key={option}>
                    <dt>{name}:</dt>
                    <dd>{tell}</dd>
                  </div>
                ))}
              </dl>
            </details>
          </fieldset>
        );
      })}
      <fieldset>
        <legend>
          Beside the way to boot <span className="quiet">What else hangs on it?</span>
        </legend>
        <Checkbox.Group
          value={choices.branches}
          onChange={(list) => onChange({ ...choices, branches: list as Choices['branches'] })}
          options={branches.map((one) => ({
            value: one.id,
            label: <span title={one.tell}>{one.title}</span>,
          }))}
        />
      </fieldset>
    </div>
  );
}

/** Name, marking and printed volts, then the choices; all but the name may stay empty. */
export function UnknownBoardFields({
  title,
  marking,
  choices,
  placeholder,
  onChange,
}: {
  title: string;
  marking: string;
  choices: Choices;
  /** What it is called where no name is given. */
  placeholder: string;
  onChange: (next: { title: string; marking: string; choices: Choices }) => void;
}) {
  const open = leftOpen(choices).length;
  return (
    <section className="unknown-board" aria-label="A board nobody has a sheet of">
      <div className="fields is-thirds">
        <label>
          Name of the board
          <Input
            value={title}
            maxLength={80}
            placeholder={placeholder || 'as the device'}
            onChange={(event) => onChange({ title: event.target.value, marking, choices })}
          />
        </label>
        <label>
          Printed on it
          <Input
            value={marking}
            maxLength={60}
            placeholder="marking, revision"
            onChange={(event) => onChange({ title, marking: event.target.value, choices })}
          />
        </label>
        <label>
          Volts of its source
          <InputNumber
            value={choices.inputVolts}
            min={3}
            max={60}
            suffix="V"
            placeholder="as printed"
            style={{ width: '100%' }}
            onChange={(inputVolts) =>
              onChange({ title, marking, choices: { ...choices, inputVolts: inputVolts ?? null } })
            }
          />
        </label>
      </div>
      <details>
        <summary>
          What you can see of it{' '}
          <span className="quiet">
            {open === questions.length
              ? 'all left open: readings narrow it'
              : `${questions.length - open} of ${questions.length} chosen`}
          </span>
        </summary>
        <ChoiceFields
          choices={choices}
          onChange={(next) => onChange({ title, marking, choices: next })}
        />
      </details>
    </section>
  );
}
