import { useState } from 'react';

type Theme = 'yoru-day' | 'yoru-night';
const KEY = 'yoru.theme';

function preferred(): Theme {
  const kept = localStorage.getItem(KEY);
  if (kept === 'yoru-day' || kept === 'yoru-night') return kept;
  return window.matchMedia('(prefers-color-scheme: dark)').matches ? 'yoru-night' : 'yoru-day';
}

export function applyTheme() {
  document.documentElement.dataset['theme'] = preferred();
}

/** The theme in use, and how to change to the other. */
export function useTheme(): [Theme, () => void] {
  const [theme, setTheme] = useState(preferred);
  const change = () => {
    const next = theme === 'yoru-day' ? 'yoru-night' : 'yoru-day';
    localStorage.setItem(KEY, next);
    setTheme(next);
    applyTheme();
  };
  return [theme, change];
}
