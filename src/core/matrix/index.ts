export * from './quadrature';
export * from './complexMatrix';
export * from './fourInTwo';
export * from './ltRt';
