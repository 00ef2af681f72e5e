<?php

declare(strict_types=1);

namespace App\Providers;

use App\Actions\Acts;
use Carbon\CarbonImmutable;
use Illuminate\Cache\RateLimiting\Limit;
use Illuminate\Database\Eloquent\Model;
use Illuminate\Http\Request;
use Illuminate\Support\Facades\Date;
use Illuminate\Support\Facades\RateLimiter;
use Illuminate\Support\ServiceProvider;

final class HarborPostProvider extends ServiceProvider
{
    public function register(): void
    {
        $this->app->singleton(Acts::class);
        Date::use(CarbonImmutable::class);
    }

    public function boot(): void
    {
        Model::preventLazyLoading(false);
        Model::preventSilentlyDiscardingAttributes();
        // Ten tries a minute for one name from one place; what is typed in the name field is part of the key.
        RateLimiter::for('sign-in', fn (Request $request): Limit => Limit::perMinute(10)->by(strtolower($request->string('sign_in')->toString()).'|'.$request->ip()));
    }
}
