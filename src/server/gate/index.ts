export * from './gate';
export * from './logins';
export * from './seats';
