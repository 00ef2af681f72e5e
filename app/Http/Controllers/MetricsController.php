<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Queries\Metrics;
use Illuminate\Http\Response;

/** Figures for a monitoring system. */
final class MetricsController extends Controller
{
    private const TYPE = 'application/openmetrics-text; version=1.0.0; charset=utf-8';

    public function __invoke(): Response
    {
        $this->wholeOnly();

        return new Response(Metrics::text(), 200, ['Content-Type' => self::TYPE]);
    }
}
