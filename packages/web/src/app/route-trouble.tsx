import { Button, Result } from 'antd';
import { Link, useLocation, useNavigate, useParams, useRouteError } from 'react-router';
import { PlainRecord } from '../widgets/plain-record.tsx';

/**
 * A page that is not there, or one that broke: what was recorded is safe either way. On a job the tabs
 * stay, and the last entry can be taken back.
 */
export function RouteTrouble() {
  const error = useRouteError();
  const { id } = useParams();
  const navigate = useNavigate();
  const { pathname } = useLocation();
  const text = error instanceof Error ? error.message : 'There is nothing at this address.';
  return (
    <div className="column">
      <Result
        status="warning"
        title="This page cannot be shown"
        subTitle={`${text} What was recorded is kept.`}
        extra={
          <>
            <Button onClick={() => void navigate(0)}>Try again</Button>{' '}
            <Link to="/jobs">
              <Button type="primary">To the jobs</Button>
            </Link>
          </>
        }
      />
      {error !== undefined && id !== undefined && (
        <PlainRecord
          id={id}
          // The page is tried anew without what was taken back.
          onStruck={() => void navigate(pathname, { replace: true })}
        />
      )}
    </div>
  );
}
