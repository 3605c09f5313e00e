type Key<T> = Extract<keyof NonNullable<T>, string | number>;
type In<T, K extends Key<T>> = NonNullable<T>[K];

/**
 * Changes one value of a document: the steps to it, each one that the document has there, and a value of its kind.
 * A step through what is not set yet goes through what would stand there.
 */
export interface Change<T> {
  (path: [], value: T): void;
  <A extends Key<T>>(path: [A], value: NonNullable<T>[A]): void;
  <A extends Key<T>, B extends Key<In<T, A>>>(path: [A, B], value: In<In<T, A>, B>): void;
  <A extends Key<T>, B extends Key<In<T, A>>, C extends Key<In<In<T, A>, B>>>(
    path: [A, B, C],
    value: In<In<In<T, A>, B>, C>,
  ): void;
  <
    A extends Key<T>,
    B extends Key<In<T, A>>,
    C extends Key<In<In<T, A>, B>>,
    D extends Key<In<In<In<T, A>, B>, C>>,
  >(
    path: [A, B, C, D],
    value: In<In<In<In<T, A>, B>, C>, D>,
  ): void;
}
