<?php

declare(strict_types=1);

namespace App\Providers;

use App\Acts\Engine\Acts;
use App\Database\PatientCache;
use App\Database\PatientConnector;
use App\Database\SoundConnection;
use App\Http\Frame;
use App\Models\Person;
use App\Queries\Facts\OwnFacts;
use App\Queries\Granted;
use App\Queries\Inherited;
use App\Queries\NamingZones;
use App\Queries\OptionLayers;
use App\Queries\OwnOptions;
use App\Queries\RoleLimits;
use App\Queries\SharedLinks;
use Carbon\CarbonImmutable;
use Illuminate\Cache\RateLimiting\Limit;
use Illuminate\Cache\Repository;
use Illuminate\Contracts\Foundation\Application;
use Illuminate\Database\Connection;
use Illuminate\Database\Eloquent\Model;
use Illuminate\Http\Middleware\TrustProxies;
use Illuminate\Http\Request;
use Illuminate\Support\Facades\Auth;
use Illuminate\Support\Facades\Blade;
use Illuminate\Support\Facades\Cache;
use Illuminate\Support\Facades\Date;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\RateLimiter;
use Illuminate\Support\Facades\View;
use Illuminate\Support\ServiceProvider;

final class HarborPostProvider extends ServiceProvider
{
    public function register(): void
    {
        $this->app->singleton(Acts::class);
        $this->app->scoped(Granted::class);
        $this->app->scoped(RoleLimits::class);
        $this->app->scoped(Inherited::class);
        $this->app->scoped(OptionLayers::class);
        $this->app->scoped(NamingZones::class);
        $this->app->scoped(OwnFacts::class);
        $this->app->scoped(SharedLinks::class);
        $this->app->scoped(OwnOptions::class);
        Date::use(CarbonImmutable::class);
        $this->app->bind('db.connector.mariadb', PatientConnector::class);
        Connection::resolverFor(
            'mariadb',
            static fn ($pdo, string $database, string $prefix, array $config): SoundConnection => new SoundConnection(
                $pdo,
                $database,
                $prefix,
                $config,
            ),
        );
    }

    public function boot(): void
    {
        TrustProxies::at((array) config('harbor.proxies'));
        Cache::extend('database', fn (Application $app, array $settings): Repository => Cache::repository(
            new PatientCache(DB::connection($settings['connection'] ?? null), $settings['table'], (string) config('cache.prefix')),
            $settings,
        ));
        // A mark is drawn without a component: dozens stand on a page.
        Blade::directive('mark', static fn (string $given): string => "<?php echo \\App\\View\\Draw::mark($given); ?>");
        $who = static fn (Request $r): string => (string) ($r->user()?->getAuthIdentifier() ?? $r->ip());
        RateLimiter::for(
            'writes',
            static fn (Request $r): Limit => $r->isMethodSafe()
                ? Limit::none()
                : Limit::perMinute((int) config('harbor.throttle.writes'))->by('writes|'.$who($r))
        );
        RateLimiter::for(
            'packets',
            static fn (Request $r): Limit => self::asksServers($r)
                ? Limit::perMinute((int) config('harbor.throttle.packets'))->by('packets|'.$who($r))
                : Limit::none()
        );
        RateLimiter::for(
            'programs',
            static fn (Request $r): Limit => Limit::perMinute((int) config('harbor.throttle.programs'))->by(
                'programs|'.hash('sha256', (string) $r->bearerToken()).$r->ip(),
            )
        );
        View::composer('components.layout', static function (\Illuminate\View\View $view): void {
            $me = Auth::user();
            $me instanceof Person ? $view->with(['me' => $me, 'frame' => Frame::of($me)]) : null;
        });
        // What is asked of one row of many is read for all of them at once; what still would be read row by row is a fault outside
        // production.
        Model::automaticallyEagerLoadRelationships();
        Model::preventLazyLoading(! $this->app->isProduction());
        Model::preventSilentlyDiscardingAttributes();
    }

    private static function asksServers(Request $request): bool
    {
        foreach ((array) config('packets') as $page) {
            if (preg_match("~$page~", $request->getRequestUri()) === 1) {
                return true;
            }
        }

        return false;
    }
}
