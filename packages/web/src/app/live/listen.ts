import { LiveLine, type Said, type Stream } from './line';

/** Listens to what happens, over a line that all tabs share; where a browser can't share one, over a line of its own. */
export function listen(heard: (said: Said) => void): () => void {
  if (typeof SharedWorker === 'undefined')
    return new LiveLine(() => new EventSource('/api/live') as unknown as Stream).listen(heard);
  const { port } = new SharedWorker(new URL('./live.worker.ts', import.meta.url), { type: 'module', name: 'live' });
  port.onmessage = ({ data }: MessageEvent<Said>) => heard(data);
  const leave = () => {
    port.postMessage('leave');
    port.close();
  };
  window.addEventListener('pagehide', leave);
  return () => {
    window.removeEventListener('pagehide', leave);
    leave();
  };
}
