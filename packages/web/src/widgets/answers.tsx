import { useRef, useState, type KeyboardEvent } from 'react';
import './answers.css';

/** The place the arrows go to from one of `count`, round the ends; null for keys that do not move. */
export function nextPlace(key: string, at: number, count: number): number | null {
  const by = { ArrowRight: 1, ArrowDown: 1, ArrowLeft: -1, ArrowUp: -1 }[key];
  if (by !== undefined) return (at + by + count) % count;
  return key === 'Home' ? 0 : key === 'End' ? count - 1 : null;
}

/**
 * One of a few answers that go into the record: one stop of the Tab key, arrows move among them, and only
 * Enter, the space bar or a click answers. The answer that stands, chosen again, is taken back where that
 * can be done.
 */
export function Answers<T extends string>({
  label,
  options,
  value,
  onAnswer,
  onTakeBack,
}: {
  label: string;
  options: readonly { value: T; label: string }[];
  /** What was answered; null: nothing yet. */
  value: T | null;
  onAnswer: (value: T) => void;
  onTakeBack?: () => void;
}) {
  const group = useRef<HTMLDivElement>(null);
  const chosen = options.findIndex((one) => one.value === value);
  const [moved, setMoved] = useState<number | null>(null);
  const here = moved ?? Math.max(0, chosen);
  const keys = (event: KeyboardEvent): void => {
    // A key held down answers once, not what is asked next as well.
    if (event.repeat && (event.key === 'Enter' || event.key === ' ')) event.preventDefault();
    const next = nextPlace(event.key, here, options.length);
    if (next === null) return;
    event.preventDefault();
    setMoved(next);
    group.current?.querySelectorAll<HTMLElement>('button')[next]?.focus();
  };
  return (
    <div className="answers" role="group" aria-label={label} ref={group} onKeyDown={keys}>
      {options.map((one, at) => {
        const is = one.value === value;
        return (
          <button
            key={one.value}
            type="button"
            aria-pressed={is}
            tabIndex={at === here ? 0 : -1}
            title={is && onTakeBack ? 'Press again to take it back' : undefined}
            onFocus={() => setMoved(at)}
            onClick={() => (is ? onTakeBack?.() : onAnswer(one.value))}
          >
            {one.label}
          </button>
        );
      })}
    </div>
  );
}
