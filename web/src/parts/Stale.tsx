// Said where somebody else saved what is being edited here.

export function Stale({ what, take }: { what: string; take: () => void }) {
  return (
    <p role="alert" className="sheet p-3 mb-3 border-l-4 border-warning">
      Somebody else has changed {what} in the meantime. What you typed is kept here.{" "}
      <button type="button" className="link" onClick={take}>
        Take theirs instead
      </button>
    </p>
  );
}
