import { Link } from 'react-router';
import { Notice } from '../ui/Notice.js';

export function NotFoundPage() {
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
