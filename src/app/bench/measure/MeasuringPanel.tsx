import { useNavigate } from 'react-router';
import { Button } from '../../ui/Button';
import { measuring, type Progress } from './measuring';

/** What the worker is doing, with time left and a way to stop it; the teacher may go on elsewhere meanwhile. */
export function MeasuringPanel({ takeId, progress, title }: { takeId: string; progress: Progress; title: string }) {
  const navigate = useNavigate();
  const running = progress.kind === 'running' ? progress : undefined;
  const share = running ? running.done / Math.max(1, running.total) : 0;
  return (
    <main className="grid min-h-[60vh] place-content-center px-6 text-center" aria-live="polite">
      <h1 className="text-name font-bold">
        {progress.kind === 'failed' ? 'This take could not be measured.' : progress.kind === 'waiting' ? 'Waiting its turn' : 'Following instrument and bow'}
      </h1>
      {progress.kind === 'failed' ? (
        <p role="alert" className="mt-2 max-w-[60ch]">
          {progress.message}
        </p>
      ) : (
        <>
          <svg width={480} height={84} viewBox="0 0 480 84" className="mx-auto mt-4" role="img" aria-label={`${Math.round(share * 100)} per cent done`}>
            <defs>
              <clipPath id="done">
                <rect width={480 * share} height={84} />
              </clipPath>
            </defs>
            {[false, true].map((done) => (
              <g key={String(done)} clipPath={done ? 'url(#done)' : undefined} fill={done ? '#F4E7C8' : 'none'} stroke={done ? '#1F2629' : '#9aa3a0'} strokeWidth={done ? 1.8 : 1}>
                {[0, 1, 2, 3].map((i) => {
                  const x = i * 120;
                  return i % 2 === 0 ? (
                    <path key={i} d={`M${x + 2} 80 C${x + 40} 78 ${x + 90} 12 ${x + 118} 8 V80 Z`} />
                  ) : (
                    <path key={i} d={`M${x + 2} 8 C${x + 30} 12 ${x + 80} 78 ${x + 118} 80 H${x + 2} Z`} />
                  );
                })}
              </g>
            ))}
          </svg>
          <p className="mt-2" data-testid="progress">
            {running ? `${running.done} of ${running.total} pictures` : title}
            {running?.secondsLeft !== undefined ? `, about ${Math.ceil(running.secondsLeft)} s left` : ''}
          </p>
          <p className="mt-1 text-label text-soft">It goes on while you work elsewhere. Keep this window open.</p>
        </>
      )}
      <div className="mt-4 flex justify-center gap-2">
        {progress.kind === 'failed' ? (
          <>
            <Button
              onClick={() => {
                measuring.forget(takeId);
                void navigate(`/takes/${takeId}/prepare`);
              }}
            >
              Back to the marks
            </Button>
            <Button kind="main" onClick={() => measuring.enqueue(takeId, 'next')}>
              Measure again
            </Button>
          </>
        ) : (
          <Button
            onClick={() => {
              measuring.cancel(takeId);
              void navigate(`/takes/${takeId}/prepare`);
            }}
          >
            Stop measuring
          </Button>
        )}
      </div>
    </main>
  );
}
