/** Something that waits for a task of its own, or has it until it ends. */
export interface Turn {
  start: () => void;
}

/** Starts what waits one after the other, each in a task of its own, once the one before it has ended. */
export class Turns {
  private readonly waiting: Turn[] = [];
  private current: Turn | null = null;

  take(start: () => void): Turn {
    const turn = { start };
    this.waiting.push(turn);
    this.next();
    return turn;
  }

  /** What stands, or is not wanted any more, makes room for the next. */
  end(turn: Turn): void {
    if (this.waiting.includes(turn)) this.waiting.splice(this.waiting.indexOf(turn), 1);
    if (turn !== this.current) return;
    this.current = null;
    this.next();
  }

  private next(): void {
    setTimeout(() => {
      if (this.current) return;
      this.current = this.waiting.shift() ?? null;
      this.current?.start();
    });
  }
}
