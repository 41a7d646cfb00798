/** Several rules of a member as one. */
export const all =
  (...rules: PropertyDecorator[]): PropertyDecorator =>
  (target, key) =>
    rules.forEach((rule) => rule(target, key));
