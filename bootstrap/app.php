<?php

declare(strict_types=1);

use App\Api\Problem;
use App\Bench\Bench;
use App\Bench\BenchRace;
use App\Bench\BenchTake;
use App\Bench\TrialGround;
use App\Database\Contention;
use App\Http\Middleware\KeepSession;
use App\Http\Middleware\PlainInput;
use App\Http\Middleware\SecureHeaders;
use App\Links\Unanswered;
use Illuminate\Database\QueryException;
use Illuminate\Foundation\Application;
use Illuminate\Foundation\Configuration\Exceptions;
use Illuminate\Foundation\Configuration\Middleware;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Http\Response;
use Illuminate\Session\Middleware\StartSession;
use Illuminate\Support\Facades\Log;
use Illuminate\Support\Facades\Route;

$app = Application::configure(basePath: dirname(__DIR__))
    ->withRouting(
        web: __DIR__.'/../routes/web.php',
        api: __DIR__.'/../routes/api.php',
        apiPrefix: 'api/v1',
        commands: __DIR__.'/../routes/console.php',
        then: static fn () => Route::group([], __DIR__.'/../routes/programs.php'),
    )
    ->withMiddleware(function (Middleware $middleware): void {
        $middleware->append(SecureHeaders::class);
        // To an act a blank may be a value: what it declares decides.
        $middleware->convertEmptyStringsToNull(except: [static fn (Request $request): bool => $request->is('act/*')]);
        $middleware->trustHosts(
            at: static fn (): array => array_map(
                static fn (string $h): string => '^'.preg_quote($h).'$',
                [...(array) config('harbor.hosts'), (string) parse_url((string) config('app.url'), PHP_URL_HOST)],
            ),
            subdomains: false,
        );
        $middleware->web(append: [PlainInput::class], replace: [StartSession::class => KeepSession::class]);
        $middleware->redirectGuestsTo('/sign-in');
        $middleware->redirectUsersTo('/');
    })
    ->withCommands([
        dirname(__DIR__).'/app/Console',
        // What measures is not part of what is installed for work.
        ...array_filter([Bench::class, BenchTake::class, BenchRace::class, TrialGround::class], class_exists(...)),
    ])
    ->withExceptions(function (Exceptions $exceptions): void {
        $exceptions->dontFlash(['password', 'token', 'secret', 'old', 'new']);
        // What a statement carried may be a secret: the log says which statement failed and why, never with what.
        $exceptions->report(static function (QueryException $e): bool {
            Log::error(
                'The database refused a statement: '.($e->getPrevious()?->getMessage() ?? ''),
                [
                    'sql' => mb_strimwidth($e->getSql(), 0, 300, '…'),
                    'at' => collect($e->getTrace())->first(static fn (array $f): bool => str_contains($f['file'] ?? '', '/app/'))['file']
                        ?? '',
                ],
            );

            return false;
        });
        $exceptions->dontReport([Unanswered::class, Problem::class]);
        $exceptions->render(
            static fn (Throwable $e, Request $r): ?JsonResponse => $r->is('api/*', 'rdap/*', 'metrics') ? Problem::from($e)
                ->response() : null,
        );
        $exceptions->render(static fn (Unanswered $e): Response => response()->view('errors.502', ['says' => $e->getMessage()], 502));
        $exceptions->render(static function (Throwable $e): ?Response {
            if (Contention::isFull($e)) {
                return response()->view('errors.507', [], 507);
            }

            return Contention::isAway($e) ? response()->view('errors.503', ['database' => true], 503, ['Retry-After' => '5']) : null;
        });
    })
    ->create();

// Each instance (demo, test) has its own settings file, written by the start script.
if (is_string(getenv('HARBOR_STORAGE')) && getenv('HARBOR_STORAGE') !== '') {
    $app->useStoragePath(getenv('HARBOR_STORAGE'));
}
$app->useEnvironmentPath(dirname(__DIR__).'/var');
$app->loadEnvironmentFrom((getenv('HPOST_INSTANCE') ?: 'demo').'.env');

return $app;
