import { msg } from '@kestfog/core/words';
import { Link } from 'react-router';
import { useTitle } from '../ui/use-title.js';

export function NotFoundPage() {
  useTitle(msg`Nothing here`);
  return (
    <div className="pt-10">
      <h1 className="text-5xl font-semibold">{msg`There is nothing at this address`}</h1>
      <p className="text-xl mt-4">
        <Link to="/orders" className="link">
          {msg`Back to the orders`}
        </Link>
      </p>
    </div>
  );
}
