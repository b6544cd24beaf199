import ipaddr from 'ipaddr.js';

/** Networks of one's own: RFC 1918, loopback, link-local, unique local (RFC 4193). */
const OWN = ['private', 'loopback', 'linkLocal', 'uniqueLocal'];

/** Is this an address of one's own network, written as an address and not as a name? Names may lead anywhere. */
export function isPrivate(host: string): boolean {
  if (!ipaddr.isValid(host)) return false;
  // An IPv4 address inside of an IPv6 one is what it is.
  return OWN.includes(ipaddr.process(host).range());
}
