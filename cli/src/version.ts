export { applicationVersion as version } from '@stern-gate/contract'
