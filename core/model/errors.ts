/** Base of all errors that `core/` raises: where it is, what is wrong, what to do. */
export class CoreError extends Error {
  constructor(
    readonly where: string,
    readonly problem: string,
    readonly remedy: string,
  ) {
    super(`${where}: ${problem} ${remedy}`);
    this.name = new.target.name;
  }
}

/** A system that cannot be evaluated: a reference to nothing, a condition on a later layer. */
export class ModelError extends CoreError {}

/** Documents that do not go together: the kit expects a part or port that this car does not have. */
export class ComposeError extends CoreError {}
