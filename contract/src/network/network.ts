/** By which names other machines reach the bench, for the phone of whoever stands at it. */
export interface NetworkHosts {
  /** Addresses of this machine in its networks, without port; empty where the server listens to this machine alone. */
  hosts: string[];
}
