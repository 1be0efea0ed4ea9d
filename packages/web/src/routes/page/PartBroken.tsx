import { useLocation, useNavigate, useRouteError } from 'react-router';
import { isNotHad } from '../../app/Broken';
import { Act, Fault } from '../../ui';

/** Shown in the place of a part of a route that broke: the rest of the page stays, with what was typed there. */
export function PartBroken() {
  const error = useRouteError();
  const here = useLocation();
  const navigate = useNavigate();
  const again = () => void navigate(here, { replace: true });
  return (
    <div className="px-6 py-4">
      <Fault>
        {isNotHad(error) ? (
          <>
            This part of the route could not be loaded: Grammata was updated since this tab was opened, or it can’t be
            reached. <Act onClick={() => location.reload()}>Load the page again</Act>
          </>
        ) : (
          <>
            This part of the route can’t be shown: something in it broke. The rest of the page works.{' '}
            <Act onClick={again}>Show it again</Act>
          </>
        )}
      </Fault>
    </div>
  );
}
