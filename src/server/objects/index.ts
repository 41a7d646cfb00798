export * from './kept';
export { forgetObjects, objects, objectsUrl } from './open';
