import { Link } from 'react-router';
import { Notice } from '../ui/Notice.js';
import { useTitle } from '../ui/use-title.js';

export function NotFoundPage() {
  useTitle('Nothing here');
  return (
    <div className="pt-10">
      <Notice title="There is nothing at this address">
        <Link to="/orders" className="link">
          Back to the orders
        </Link>
      </Notice>
    </div>
  );
}
