import { useEffect, useState } from 'react';

/**
 * Whether the space bar is held, which shows the original for as long; not while somebody writes or presses a button.
 */
export function usePeek(): boolean {
  const [isHeld, setHeld] = useState(false);
  useEffect(() => {
    const isForWriting = (target: EventTarget | null) =>
      target instanceof HTMLElement &&
      target.closest('input, textarea, select, button, a, [role=slider], [role=radio]');
    const down = (event: KeyboardEvent) => {
      if (event.key !== ' ' || event.ctrlKey || event.metaKey || event.altKey || isForWriting(event.target)) return;
      event.preventDefault();
      setHeld(true);
    };
    const up = (event: KeyboardEvent) => event.key === ' ' && setHeld(false);
    const leave = () => setHeld(false);
    window.addEventListener('keydown', down);
    window.addEventListener('keyup', up);
    window.addEventListener('blur', leave);
    return () => {
      window.removeEventListener('keydown', down);
      window.removeEventListener('keyup', up);
      window.removeEventListener('blur', leave);
    };
  }, []);
  return isHeld;
}
