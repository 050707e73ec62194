// Node hands no loader on to threads: each registers the one that the server itself was started with, and then takes up its work.
import { Piscina } from 'piscina';
import { register } from 'tsx/esm/api';

register();
const { default: work } = await import(Piscina.workerData.work);
export default work;
