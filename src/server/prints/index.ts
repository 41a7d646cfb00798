export * from './prints';
export * from './printJob';
export * from './report';
export * from './verify';
export * from './verifyUpload';
export * from './back';
