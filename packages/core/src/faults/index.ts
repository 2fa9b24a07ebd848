export { withFault, faultName, type Fault } from './fault.ts';
