<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Queries\Health;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Response;

/** For machines: whether this process answers, and whether it can be worked with. Nothing that is not for everybody. */
final class HealthController extends Controller
{
    public function up(): Response
    {
        return new Response("up\n", 200, ['Content-Type' => 'text/plain', 'Cache-Control' => 'no-store']);
    }

    public function ready(): JsonResponse
    {
        $checks = Health::checks();
        $ready = Health::isReady($checks);

        return new JsonResponse(
            ['ready' => $ready, 'checks' => $checks],
            $ready ? 200 : 503,
            ['Cache-Control' => 'no-store'] + ($ready ? [] : ['Retry-After' => '5']),
        );
    }
}
