/** What the environment says of how to serve. */
import { hostname, networkInterfaces } from 'node:os';

export interface Settings {
  host: string;
  port: number;
  /** What pages and scripts must present; null when only this machine can reach the server. */
  token: string | null;
  /** Host names that requests may be for. */
  hosts: Set<string>;
}

/** A setting that cannot be used; the message is one line. */
export class SettingsError extends Error {}

const LOOPBACK = ['localhost', '127.0.0.1', '[::1]'];
/** As a Host header writes it. */
const named = (host: string) =>
  (host.includes(':') ? `[${host.replace(/^\[|\]$/g, '')}]` : host).toLowerCase();
const isLoopback = (host: string) => LOOPBACK.includes(named(host)) || /^127(\.\d{1,3}){3}$/.test(host);

/** @throws SettingsError naming the setting */
export function readSettings(env: Record<string, string | undefined>): Settings {
  const { PORT = '4600', HOST = '127.0.0.1', WEMLOX_TOKEN = '', WEMLOX_HOSTS = '' } = env;
  const port = Number(PORT);
  if (!/^\d{1,5}$/.test(PORT) || port < 1 || port > 65535)
    throw new SettingsError(`PORT is "${PORT}"; it takes a whole number from 1 to 65535`);
  if (HOST === '') throw new SettingsError('HOST is empty; it takes an address of this machine');
  const token = WEMLOX_TOKEN || null;
  if (!isLoopback(HOST) && !token)
    throw new SettingsError(
      `HOST=${HOST} lets others reach the studio; set WEMLOX_TOKEN to a secret that they must present`,
    );
  const hosts = new Set([...LOOPBACK, named(HOST), ...WEMLOX_HOSTS.split(',').filter(Boolean).map(named)]);
  if (HOST === '0.0.0.0' || HOST === '::') {
    hosts.add(hostname().toLowerCase());
    for (const list of Object.values(networkInterfaces()))
      for (const { address } of list ?? []) hosts.add(named(address));
  }
  return { host: HOST, port, token, hosts };
}
