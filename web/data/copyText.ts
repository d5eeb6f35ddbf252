/**
 * Puts words on the clipboard. Browsers keep it from pages that come neither from this machine nor by TLS; there the
 * older way goes on working, by a field that is chosen and copied.
 */
export async function copyText(text: string): Promise<void> {
  if (navigator.clipboard) return navigator.clipboard.writeText(text);
  const field = document.createElement('textarea');
  field.value = text;
  field.style.position = 'fixed';
  field.style.opacity = '0';
  document.body.append(field);
  field.select();
  document.execCommand('copy');
  field.remove();
}
