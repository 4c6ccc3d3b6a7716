'use strict';
// The page of one app: a button that copies the command.
for (const button of document.querySelectorAll('button[data-copies]')) {
  button.hidden = false;
  const said = document.getElementById('done'), command = document.getElementById(button.dataset.copies);
  button.addEventListener('click', async () => {
    try {
      await navigator.clipboard.writeText(command.textContent);
      said.textContent = 'Copied.';
    } catch {
      getSelection().selectAllChildren(command);
      said.textContent = 'Selected: press Ctrl+C to copy.';
    }
  });
}
