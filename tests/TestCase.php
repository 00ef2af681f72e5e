<?php

declare(strict_types=1);

namespace Tests;

use Illuminate\Foundation\Testing\TestCase as Base;

abstract class TestCase extends Base
{
    public function createApplication(): \Illuminate\Foundation\Application
    {
        Lane::choose();
        $app = require __DIR__.'/../bootstrap/app.php';
        $app->make(\Illuminate\Contracts\Console\Kernel::class)->bootstrap();

        return $app;
    }
}
