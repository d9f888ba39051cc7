export { EndScene } from './EndScene'
export { PlacedScene } from './PlacedScene'
