<?php

declare(strict_types=1);

namespace App\Providers;

use App\Actions\Acts;
use App\Database\SoundConnection;
use App\Queries\Inherited;
use Carbon\CarbonImmutable;
use Illuminate\Database\Connection;
use Illuminate\Database\Eloquent\Model;
use Illuminate\Support\Facades\Blade;
use Illuminate\Support\Facades\Date;
use Illuminate\Support\ServiceProvider;

final class HarborPostProvider extends ServiceProvider
{
    public function register(): void
    {
        $this->app->singleton(Acts::class);
        $this->app->scoped(Inherited::class);
        Date::use(CarbonImmutable::class);
        Connection::resolverFor('mariadb', static fn ($pdo, string $database, string $prefix, array $config): SoundConnection => new SoundConnection($pdo, $database, $prefix, $config));
    }

    public function boot(): void
    {
        // A mark is drawn without a component: dozens stand on a page.
        Blade::directive('mark', static fn (string $given): string => "<?php echo \\App\\View\\Draw::mark($given); ?>");
        Model::preventLazyLoading(false);
        Model::preventSilentlyDiscardingAttributes();
    }
}
