import { parentPort, receiveMessageOnPort, workerData } from 'node:worker_threads';
import { serveLedger, type LedgerStart, type ToLedger } from './serve';

// The program of the ledger's thread.
const port = parentPort!;
const ledger = serveLedger(workerData as LedgerStart, (answers, transfer) => port.postMessage(answers, transfer));

port.on('message', (first: ToLedger) => {
  const messages = [first];
  for (let next = receiveMessageOnPort(port); next; next = receiveMessageOnPort(port))
    messages.push(next.message as ToLedger);
  ledger.take(messages);
  if (!messages.some(each => 'close' in each)) return;
  ledger.close();
  port.close();
});
