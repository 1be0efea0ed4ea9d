import { LiveLine, type Stream } from './line';

// One stream for all tabs of this browser: it gives a host no more than six connections, and each tab wants some of them.

const line = new LiveLine(() => new EventSource('/api/live') as unknown as Stream);

(self as unknown as { onconnect: (event: MessageEvent) => void }).onconnect = ({ ports: [port] }) => {
  const stop = line.listen(said => port!.postMessage(said));
  // A tab says when it goes; one that crashed costs a message now and then.
  port!.onmessage = stop;
};
