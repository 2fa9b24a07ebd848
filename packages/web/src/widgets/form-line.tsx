import { useRef, useState, type KeyboardEvent, type ReactNode } from 'react';

/** The field after one of several, by Enter; null behind the last one. */
export const fieldAfter = <T,>(fields: readonly T[], here: T): T | null =>
  fields[fields.indexOf(here) + 1] ?? null;

/**
 * Fields in a line, as one types them at a bench: Enter goes to the next field, and in the last one records.
 * Where something is missing it says what, instead of a grey button alone.
 */
export function FormLine({
  label,
  missing,
  onRecord,
  children,
}: {
  label: string;
  /** What is still missing before it can be recorded; null where nothing is. */
  missing: string | null;
  onRecord: () => void;
  children: ReactNode;
}) {
  const line = useRef<HTMLDivElement>(null);
  const [isTold, tell] = useState(false);
  const keys = (event: KeyboardEvent): void => {
    const { target } = event;
    if (event.key !== 'Enter' || event.repeat || event.nativeEvent.isComposing) return;
    // A list takes Enter itself: it opens, or chooses.
    if (!(target instanceof HTMLInputElement) || target.closest('.ant-select')) return;
    event.preventDefault();
    const fields = [...(line.current?.querySelectorAll('input') ?? [])].filter(
      (one) => !one.closest('.ant-select') && one.type !== 'file',
    );
    const next = fieldAfter(fields, target);
    if (next) return next.focus();
    tell(missing !== null);
    if (missing === null) {
      onRecord();
      fields[0]?.focus();
    }
  };
  return (
    <div className="form-line" role="group" aria-label={label} ref={line} onKeyDown={keys}>
      {children}
      {isTold && missing !== null && (
        <span className="tone-bad" role="status">
          {missing}
        </span>
      )}
    </div>
  );
}
