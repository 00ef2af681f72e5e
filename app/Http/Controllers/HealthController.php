<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Queries\Health;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Http\Response;

/** For machines: whether this process answers, and whether it can be worked with. Nothing that is not for everybody. */
final class HealthController extends Controller
{
    public function up(): Response
    {
        return new Response("up\n", 200, ['Content-Type' => 'text/plain', 'Cache-Control' => 'no-store']);
    }

    /** Whoever asks from elsewhere is told whether, and from this machine also why. */
    public function ready(Request $request): JsonResponse
    {
        $checks = Health::checks();
        $ready = Health::isReady($checks);
        $near = in_array($request->ip(), ['127.0.0.1', '::1'], true);

        return new JsonResponse(
            ['ready' => $ready] + ($near ? ['checks' => $checks] : []),
            $ready ? 200 : 503,
            ['Cache-Control' => 'no-store'] + ($ready ? [] : ['Retry-After' => '5']),
        );
    }
}
