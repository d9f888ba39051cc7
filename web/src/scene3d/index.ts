export { EndScene } from './EndScene'
