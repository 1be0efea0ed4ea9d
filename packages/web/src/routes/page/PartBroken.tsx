import { useLocation, useNavigate, useRouteError } from 'react-router';
import { isChunkMissing } from '../../app/Broken';
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
        {isChunkMissing(error) ? (
          <>
            This part could not be loaded: Grammata was updated after you opened this tab, or the server can’t be
            reached. <Act onClick={() => location.reload()}>Reload</Act>
          </>
        ) : (
          <>
            This part of the route failed. The others work. <Act onClick={again}>Try again</Act>
          </>
        )}
      </Fault>
    </div>
  );
}
