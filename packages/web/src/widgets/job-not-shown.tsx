import { Alert, Skeleton } from 'antd';
import { PlainRecord } from './plain-record.tsx';

/** Stands in for a view of a job while it loads, or says why it cannot be shown, with the way to its record. */
export function JobNotShown({
  id,
  found,
}: {
  id: string;
  found: { state: 'loading' } | { state: 'trouble'; words: string };
}) {
  return (
    <div className="column">
      {found.state === 'loading' ? (
        <Skeleton active />
      ) : (
        <>
          <Alert type="error" showIcon title="This job cannot be shown" description={found.words} />
          <PlainRecord id={id} />
        </>
      )}
    </div>
  );
}
