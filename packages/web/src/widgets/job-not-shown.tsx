import { Alert, Skeleton } from 'antd';

/** Stands in for a view of a job while it loads, or says why it cannot be shown. */
export function JobNotShown({
  found,
}: {
  found: { state: 'loading' } | { state: 'trouble'; words: string };
}) {
  return (
    <div className="column">
      {found.state === 'loading' ? (
        <Skeleton active />
      ) : (
        <Alert type="error" showIcon title="This job cannot be shown" description={found.words} />
      )}
    </div>
  );
}
