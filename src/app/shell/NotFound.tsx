import { Link } from 'react-router';

export function NotFound() {
  return (
    <main className="grid min-h-screen place-items-center">
      <div className="text-center">
        <h1 className="text-name">There is nothing here.</h1>
        <p className="my-3 text-soft">The take may have been deleted, or the address is not one of this application.</p>
        <Link className="font-semibold text-sea underline" to="/">
          Back to the desk
        </Link>
      </div>
    </main>
  );
}
