import { Link, useParams } from 'react-router';

export function NoSuchPart() {
  const { id } = useParams();
  return (
    <p className="px-6 py-4 font-serif text-lead text-ink-2">
      This part does not exist.{' '}
      <Link className="act" to={`/routes/${id}/mapping`}>
        Go to the mapping
      </Link>
      .
    </p>
  );
}
