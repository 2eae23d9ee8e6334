import { useCallback, useState } from "react";

/** How many steps can be taken back. */
const DEPTH = 100;

/** A value with undo and redo. */
export function useHistory<T>(initial: T) {
  const [state, setState] = useState<{ past: T[]; value: T; future: T[] }>({ past: [], value: initial, future: [] });
  const change = useCallback((value: T) => {
    setState((s) => ({ past: [...s.past.slice(1 - DEPTH), s.value], value, future: [] }));
  }, []);
  const undo = useCallback(() => {
    setState((s) => {
      const value = s.past.at(-1);
      return value === undefined ? s : { past: s.past.slice(0, -1), value, future: [s.value, ...s.future] };
    });
  }, []);
  const redo = useCallback(() => {
    setState((s) => {
      const [value, ...future] = s.future;
      return value === undefined ? s : { past: [...s.past, s.value], value, future };
    });
  }, []);
  return { value: state.value, change, undo, redo, canUndo: state.past.length > 0, canRedo: state.future.length > 0 };
}
