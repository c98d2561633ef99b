export function Mark() {
  return (
    <svg width="20" height="20" viewBox="0 0 20 20" aria-hidden>
      <rect width="9" height="9" fill="#444" />
      <rect x="11" width="9" height="9" fill="#999" />
      <rect y="11" width="9" height="9" fill="#111" />
      <path d="M11 14.5 14.5 11M11 18.5 18.5 11M12.8 20 20 12.8M16.6 20 20 16.6" stroke="#111" strokeWidth="1.3" />
    </svg>
  );
}
