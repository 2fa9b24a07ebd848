import { Button, Result } from 'antd';
import { Link, useRouteError } from 'react-router';

/** A page that is not there, or one that broke: what was recorded is safe either way. */
export function RouteTrouble() {
  const error = useRouteError();
  const text = error instanceof Error ? error.message : 'There is nothing at this address.';
  return (
    <Result
      status="warning"
      title="This page cannot be shown"
      subTitle={`${text} What was recorded is kept.`}
      extra={
        <Link to="/jobs">
          <Button type="primary">To the jobs</Button>
        </Link>
      }
    />
  );
}
