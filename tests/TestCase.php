<?php

declare(strict_types=1);

namespace Tests;

use Illuminate\Foundation\Testing\TestCase as Base;

abstract class TestCase extends Base
{
    /**
     * Signed in, and by the password just now.
     *
     * @param  \Illuminate\Contracts\Auth\Authenticatable  $user
     */
    public function actingAs($user, $guard = null)
    {
        return parent::actingAs($user, $guard)->withSession(['sure' => time()]);
    }

    public function createApplication(): \Illuminate\Foundation\Application
    {
        Lane::choose();
        $app = require __DIR__.'/../bootstrap/app.php';
        $app->make(\Illuminate\Contracts\Console\Kernel::class)->bootstrap();

        return $app;
    }
}
