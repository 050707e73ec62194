export { NetworkPropagator, simulateNetwork, type NetworkInput, type ThermalLink, type ThermalNode } from './simulateNetwork.ts';
