import type { AnchorHTMLAttributes, ButtonHTMLAttributes } from 'react';
import { Link, type LinkProps } from 'react-router';

type Look = 'plain' | 'strong' | 'quiet';

const LOOKS: Record<Look, string> = {
  plain: 'border border-ink bg-transparent hover:bg-shade',
  strong: 'border border-ink bg-ink text-paper hover:opacity-90',
  quiet: 'border border-transparent text-soft hover:text-ink hover:underline',
};
const BASE =
  'inline-flex items-center justify-center gap-2 rounded-[2px] px-3.5 py-1.5 leading-6 no-underline disabled:cursor-not-allowed disabled:opacity-45';

export function Button({
  look = 'plain',
  className = '',
  type = 'button',
  ...rest
}: ButtonHTMLAttributes<HTMLButtonElement> & { look?: Look }) {
  return <button type={type} className={`${BASE} ${LOOKS[look]} ${className}`} {...rest} />;
}

/** A file of the server, to be taken away. */
export function FileLink({ className = '', ...rest }: AnchorHTMLAttributes<HTMLAnchorElement>) {
  return <a className={`${BASE} ${LOOKS.plain} ${className}`} download {...rest} />;
}

export function ButtonLink({ look = 'plain', className = '', ...rest }: LinkProps & { look?: Look }) {
  return <Link className={`${BASE} ${LOOKS[look]} ${className}`} {...rest} />;
}
