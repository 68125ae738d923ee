/** Cards, chance and the engine that runs rule sheets. */
export * from './cards/deck.js';
export * from './cards/face.js';
export * from './chance/chacha.js';
export * from './chance/commitment.js';
export * from './chance/generator.js';
export * from './chance/quick.js';
export * from './program/types.js';
