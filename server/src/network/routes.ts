import type { Handlers } from '../http/serve.ts';
import { hostsOf } from './hosts.ts';

/** @param host on which the server listens; networks come and go, so that they are looked at whenever somebody asks */
export const networkHandlers = (host: string) => ({ networkHosts: () => ({ hosts: hostsOf(host) }) }) satisfies Partial<Handlers>;
