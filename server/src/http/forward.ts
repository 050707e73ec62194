import { request } from 'node:http';
import type { Request, Response } from 'express';

export type { RequestHandler } from 'express';

/**
 * Hands a request on as it is to a process that listens on a socket, and its answer back as it comes: neither is held in memory.
 *
 * @param failed called where the process does not answer and nothing was sent yet
 */
export function handOver(socketPath: string, req: Request, res: Response, failed: () => void): void {
  const { method, headers, originalUrl: path } = req;
  // A line of its own each time: one that is kept may be closed by the other end in the moment in which it is used again.
  const asked = request({ socketPath, method, path, headers, agent: false }, (answer) => {
    res.writeHead(answer.statusCode ?? 502, answer.rawHeaders);
    answer.pipe(res);
    answer.on('error', () => res.destroy());
  });
  asked.on('error', () => {
    // Whoever asked has gone away: there is nobody to answer, and nothing failed.
    if (res.closed || res.destroyed) return;
    if (res.headersSent) res.destroy();
    else failed();
  });
  res.on('error', () => asked.destroy());
  res.on('close', () => asked.destroy());
  req.pipe(asked);
}
