import { Link, useParams } from 'react-router';

export function NoSuchPart() {
  const { id } = useParams();
  return (
    <p className="px-6 py-4 font-serif text-lead text-ink-2">
      A route has no such part. The address may be mistyped:{' '}
      <Link className="act" to={`/routes/${id}/what`}>
        go to its lines
      </Link>
      .
    </p>
  );
}
