// Lets a thread read TypeScript, then hands over to the job it was started for: loaders are not inherited by threads.
import { workerData } from 'node:worker_threads';
import { register } from 'tsx/esm/api';

register();
await import(`./${workerData.job}.ts`);
