<?php

declare(strict_types=1);

use App\Http\Middleware\KeepSession;
use App\Http\Middleware\SecureHeaders;
use Illuminate\Foundation\Application;
use Illuminate\Foundation\Configuration\Exceptions;
use Illuminate\Foundation\Configuration\Middleware;
use Illuminate\Http\Middleware\HandleCors;
use Illuminate\Session\Middleware\StartSession;

$app = Application::configure(basePath: dirname(__DIR__))
    ->withRouting(web: __DIR__.'/../routes/web.php', commands: __DIR__.'/../routes/console.php')
    ->withMiddleware(function (Middleware $middleware): void {
        // The package behind it is not installed, and no other origin is ever allowed.
        $middleware->remove(HandleCors::class);
        $middleware->web(append: [SecureHeaders::class], replace: [StartSession::class => KeepSession::class]);
        $middleware->redirectGuestsTo('/sign-in');
        $middleware->redirectUsersTo('/');
    })
    ->withCommands([dirname(__DIR__).'/app/Console'])
    ->withExceptions(function (Exceptions $exceptions): void {
        $exceptions->dontFlash(['password', 'token', 'secret']);
    })
    ->create();

// Each instance (demo, test) has its own settings file, written by the start script.
$app->useEnvironmentPath(dirname(__DIR__).'/var');
$app->loadEnvironmentFrom((getenv('HPOST_INSTANCE') ?: 'demo').'.env');

return $app;
