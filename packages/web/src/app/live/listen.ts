import { LiveLine, type LineMessage, type Stream } from './line';

/** Listens to what happens, over a line that all tabs share; where a browser can't share one, over a line of its own. */
export function listen(heard: (said: LineMessage) => void): () => void {
  let leave = connect(heard, () => (leave = ownLine(heard)));
  const hide = () => leave();
  // A page that comes back out of the browser's memory has to be told what it missed.
  const show = (event: PageTransitionEvent) => {
    if (!event.persisted) return;
    heard({ lost: true });
    leave = connect(heard, () => (leave = ownLine(heard)));
  };
  window.addEventListener('pagehide', hide);
  window.addEventListener('pageshow', show);
  return () => {
    window.removeEventListener('pagehide', hide);
    window.removeEventListener('pageshow', show);
    leave();
  };
}

const ownLine = (heard: (said: LineMessage) => void) =>
  new LiveLine(() => new EventSource('/api/live') as unknown as Stream).listen(heard);

/** The line that all tabs share; `refused` hears of it when its worker can't be had. */
function connect(heard: (said: LineMessage) => void, refused: () => void): () => void {
  if (typeof SharedWorker === 'undefined') return ownLine(heard);
  const worker = new SharedWorker(new URL('./live.worker.ts', import.meta.url), { type: 'module', name: 'live' });
  worker.onerror = refused;
  worker.port.onmessage = ({ data }: MessageEvent<LineMessage>) => heard(data);
  return () => {
    worker.port.postMessage('leave');
    worker.port.close();
  };
}
