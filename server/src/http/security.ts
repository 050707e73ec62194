import { timingSafeEqual } from 'node:crypto';
import type { IncomingMessage } from 'node:http';
import type { RequestHandler } from 'express';
import helmet from 'helmet';
import { HttpProblem } from './problems.ts';

export interface Access {
  /** Address the server listens on. */
  host: string;
  /** Needed to listen on anything but this machine. */
  passphrase: string | null;
}

const LOOPBACK = new Set(['127.0.0.1', '::1', 'localhost']);

function isLoopback(host: string): boolean {
  return LOOPBACK.has(host);
}

/** @throws Error the server would be open to the network without a passphrase */
export function assertSafeToListen(access: Access): void {
  if (!isLoopback(access.host) && (access.passphrase ?? '').length < 12) {
    throw new Error(
      `Listening on ${access.host} opens the bench to the network: set RED_EMBER_PASSPHRASE to at least 12 characters, or listen on 127.0.0.1.`,
    );
  }
}

function hostName(header: string): string {
  const match = /^(\[[^\]]+\]|[^:]+)(:\d+)?$/.exec(header);
  return (match?.[1] ?? '').replace(/^\[|\]$/g, '').toLowerCase();
}

function samePassphrase(given: string, expected: string): boolean {
  const [a, b] = [Buffer.from(given), Buffer.from(expected)];
  return a.length === b.length && timingSafeEqual(a, b);
}

/** The passphrase in a request: `x-passphrase`, or HTTP Basic with any user name, which a browser asks for by itself. */
function givenPassphrase(headers: IncomingMessage['headers']): string {
  const basic = /^Basic (.+)$/.exec(headers.authorization ?? '')?.[1];
  if (basic)
    return Buffer.from(basic, 'base64')
      .toString('utf8')
      .replace(/^[^:]*:/, '');
  return String(headers['x-passphrase'] ?? '');
}

/**
 * Why a request is refused; null where it may pass. A foreign Host would let a web page reach the bench by renaming its own
 * address to ours; a foreign Origin is another site's script.
 */
export function refuse(headers: IncomingMessage['headers'], access: Access): { status: number; reason: string } | null {
  const host = hostName(headers.host ?? '');
  if (!isLoopback(host) && (isLoopback(access.host) || !access.passphrase))
    return { status: 421, reason: `This server does not answer to the name "${host}".` };
  const origin = headers.origin;
  if (origin !== undefined) {
    let originHost: string;
    try {
      originHost = new URL(origin).host;
    } catch {
      originHost = '';
    }
    if (originHost !== headers.host) return { status: 403, reason: 'Requests from another site are refused.' };
  }
  if (access.passphrase && !isLoopback(access.host) && !samePassphrase(givenPassphrase(headers), access.passphrase))
    return { status: 401, reason: 'The passphrase is missing or wrong.' };
  return null;
}

export function guard(access: Access): RequestHandler {
  return (req, res, next) => {
    const refusal = refuse(req.headers, access);
    if (!refusal) {
      next();
      return;
    }
    if (refusal.status === 401) res.setHeader('WWW-Authenticate', 'Basic realm="Red Ember"');
    next(new HttpProblem(refusal.status, 'Refused', refusal.reason));
  };
}

/** Strict content security policy: scripts and data from this server only, nothing inline. */
export function headers(): RequestHandler {
  return helmet({
    contentSecurityPolicy: {
      useDefaults: false,
      directives: {
        defaultSrc: ["'none'"],
        scriptSrc: ["'self'"],
        // Charts and overlays position themselves with style attributes; style elements stay forbidden.
        styleSrc: ["'self'"],
        styleSrcAttr: ["'unsafe-inline'"],
        imgSrc: ["'self'", 'data:'],
        fontSrc: ["'self'"],
        connectSrc: ["'self'"],
        workerSrc: ["'self'"],
        frameSrc: ["'self'"],
        baseUri: ["'none'"],
        formAction: ["'self'"],
        frameAncestors: ["'self'"],
      },
    },
    strictTransportSecurity: false, // served on the bench itself, without TLS
    crossOriginEmbedderPolicy: false,
    xFrameOptions: { action: 'sameorigin' },
  });
}
