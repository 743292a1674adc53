// Which colours the table has is known before anything is drawn: by choice, or as the system has them.
(() => {
  const system = matchMedia("(prefers-color-scheme: dark)");
  const show = () => {
    let choice = null;
    try {
      choice = localStorage.getItem("table");
    } catch {
      // Without storage the system decides.
    }
    const dark = choice === "dark" || (choice !== "light" && system.matches);
    document.documentElement.dataset.table = dark ? "dark" : "light";
  };
  show();
  system.addEventListener("change", show);
  addEventListener("storage", show);
  addEventListener("table", show);
})();
