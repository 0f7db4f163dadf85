/** How this server may be reached, and by whom. */
export interface AccessSettings {
  /** The address it listens on. */
  readonly host: string
  /** Names under which it may be called, beside loopback. */
  readonly hosts: readonly string[]
  /** With it operators sign in; without it everybody on this computer is trusted. */
  readonly shopKey: string | undefined
  /** Cookies go over TLS only. */
  readonly secure: boolean
  readonly tls: { readonly certificate: string; readonly key: string } | undefined
  /** A proxy of the shop's own stands before it, and says whom it speaks for. */
  readonly proxied: boolean
}

const LEAST_KEY = 12

const isLoopback = (host: string): boolean => host === 'localhost' || host === '::1' || /^127\./.test(host)

/**
 * Settings from the environment. @throws Error with a sentence where it would stand open on a network
 */
export function accessSettings(env: NodeJS.ProcessEnv): AccessSettings {
  const host = env.NEOTAXIS_HOST || '127.0.0.1'
  const shopKey = env.NEOTAXIS_SHOP_KEY || undefined
  const { NEOTAXIS_TLS_CERTIFICATE: certificate, NEOTAXIS_TLS_KEY: key } = env
  if (!isLoopback(host) && shopKey === undefined)
    throw new Error(
      `NEOTAXIS_HOST=${host} opens this server to a network: whoever reaches it could switch a beam on. Set NEOTAXIS_SHOP_KEY to a secret of the shop's own (${LEAST_KEY} characters or more), so that operators sign in.`,
    )
  if (shopKey !== undefined && shopKey.length < LEAST_KEY)
    throw new Error(`NEOTAXIS_SHOP_KEY is too short: take ${LEAST_KEY} characters or more.`)
  if ((certificate === undefined) !== (key === undefined))
    throw new Error('TLS needs both NEOTAXIS_TLS_CERTIFICATE and NEOTAXIS_TLS_KEY, each the path of a PEM file.')
  const named = (env.NEOTAXIS_HOSTS ?? '').split(',').flatMap((name) => (name.trim() === '' ? [] : [name.trim()]))
  const own = host === '0.0.0.0' || host === '::' ? [] : [host.includes(':') ? `[${host}]` : host]
  const proxied = env.NEOTAXIS_PROXY === '1'
  const tls = certificate !== undefined && key !== undefined ? { certificate, key } : undefined
  return { host, hosts: [...own, ...named], shopKey, secure: tls !== undefined || proxied, tls, proxied }
}

/** What tests and a lone computer begin with. */
export const OPEN_ACCESS: AccessSettings = {
  host: '127.0.0.1',
  hosts: [],
  shopKey: undefined,
  secure: false,
  tls: undefined,
  proxied: false,
}
