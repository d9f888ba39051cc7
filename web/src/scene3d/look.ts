/** The axis along which a point is dragged. */
export type Axis = 'x' | 'y' | 'z'
/** Where the scene is seen from. */
export type Look = 'front' | 'side' | 'top' | 'free'
