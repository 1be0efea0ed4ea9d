/** Light or dark, as chosen; kept in this browser. */
export function switchTheme(): void {
  const theme = document.documentElement.dataset.theme === 'dark' ? 'light' : 'dark';
  document.documentElement.dataset.theme = theme;
  localStorage.setItem('theme', theme);
}
