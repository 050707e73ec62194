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

/** Whether a server that listens there is reached from its own machine alone. */
export function isLoopback(host: string): boolean {
  return LOOPBACK.has(host);
}

/** @throws Error the server would be open to the network without a passphrase */
export function assertSafeToListen(access: Access): void {
  // Blanks are easily typed and easily guessed, in any script.
  const letters = [...(access.passphrase ?? '').replace(/[\s\p{C}]/gu, '')];
  if (!isLoopback(access.host) && letters.length < 12) {
    throw new Error(
      `Listening on ${access.host} opens the bench to the network: set RED_EMBER_PASSPHRASE to at least 12 characters besides blanks, or listen on 127.0.0.1.`,
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
  // A header is bytes: other scripts come as UTF-8.
  return Buffer.from(String(headers['x-passphrase'] ?? ''), 'latin1').toString('utf8');
}

/** Wrong passphrases that are let pass before each further one costs time, and what the wait grows to, ms. */
const FREE_GUESSES = 5;
const LONGEST_WAIT_MS = 5 * 60_000;
/** Guesses are forgotten after this long without one, ms. */
const FORGET_MS = 30 * 60_000;

/** Slows down whoever guesses the passphrase, by the address that asks. */
export class Guesses {
  private readonly wrong = new Map<string, { count: number; atMs: number }>();

  constructor(
    private readonly log: (text: string) => void,
    private readonly nowMs: () => number = () => performance.now(),
  ) {}

  /** Seconds for which an address is not listened to; 0 where it is. */
  waitS(from: string): number {
    const guessed = this.wrong.get(from);
    if (!guessed || guessed.count <= FREE_GUESSES) return 0;
    const waitMs = Math.min(LONGEST_WAIT_MS, 1000 * 2 ** (guessed.count - FREE_GUESSES));
    return Math.max(0, Math.ceil((guessed.atMs + waitMs - this.nowMs()) / 1000));
  }

  missed(from: string): void {
    const now = this.nowMs();
    for (const [address, { atMs }] of this.wrong) if (now - atMs > FORGET_MS) this.wrong.delete(address);
    const count = (this.wrong.get(from)?.count ?? 0) + 1;
    this.wrong.set(from, { count, atMs: now });
    if (count >= FREE_GUESSES) this.log(`Wrong passphrase number ${count} from ${from}.`);
  }

  right(from: string): void {
    this.wrong.delete(from);
  }
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
    // Compared whole: another scheme, another port, is another site. A proxy that adds encryption says so; a page cannot.
    const scheme = headers['x-forwarded-proto'] === 'https' ? 'https' : 'http';
    if (origin !== `${scheme}://${headers.host}`) return { status: 403, reason: 'Requests from another site are refused.' };
  } else if (headers['sec-fetch-site'] === 'cross-site' && headers['sec-fetch-mode'] !== 'navigate')
    // A link may lead here; a picture, a script or a form of another site may not.
    return { status: 403, reason: 'Requests from another site are refused.' };
  if (access.passphrase && !isLoopback(access.host) && !samePassphrase(givenPassphrase(headers), access.passphrase))
    return { status: 401, reason: 'The passphrase is missing or wrong.' };
  return null;
}

/** As `refuse`, for whoever asks from an address: one that guesses the passphrase waits. */
export function refuseFrom(req: IncomingMessage, access: Access, guesses: Guesses): { status: number; reason: string } | null {
  const from = req.socket.remoteAddress ?? 'somewhere';
  const waitS = guesses.waitS(from);
  if (waitS > 0) return { status: 429, reason: `Too many wrong passphrases: ask again in ${waitS} s.` };
  const refusal = refuse(req.headers, access);
  const given = givenPassphrase(req.headers) !== '';
  if (refusal?.status === 401 && given) guesses.missed(from);
  else if (!refusal && given) guesses.right(from);
  return refusal;
}

export function guard(access: Access, guesses: Guesses): RequestHandler {
  return (req, res, next) => {
    const refusal = refuseFrom(req, access, guesses);
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
