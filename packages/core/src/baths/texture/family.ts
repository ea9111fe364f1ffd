export const TEXTURE = 'Texture'
