declare module 's3rver' {
  export default class Store {
    constructor(options: {
      port: number;
      address: string;
      directory: string;
      silent: boolean;
      configureBuckets: { name: string; configs: string[] }[];
    });
    run(): Promise<unknown>;
    close(): Promise<void>;
  }
}
