<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Http\Rdap\Answers;
use App\Models\Prefix;
use App\Models\Space;
use App\Models\Tenant;
use App\Queries\Ancestors;
use App\Queries\Picks;
use HarborPost\Core\Dns\Malformed;
use HarborPost\Core\Dns\Name;
use HarborPost\Core\Net\Prefix as Net;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;

/**
 * Whose is this address, this name: by the protocol that registries speak (RFC 7480, 9082, 9083), with the rights of the token's person.
 */
final class RdapController extends Controller
{
    public function help(): JsonResponse
    {
        return $this->json($this->answers()->help());
    }

    /** The smallest network that holds an address or a prefix. */
    public function ip(string $address, ?string $length = null): JsonResponse
    {
        $net = Net::tryParse($length === null ? $address : "$address/$length");
        if ($net === null) {
            return $this->problem(400, 'An address, or a prefix without host bits, is meant.');
        }
        $found = null;
        foreach (Space::query()->orderBy('name')->get() as $space) {
            foreach (Ancestors::of($space->id, $net) as $prefix) {
                if ($this->reach()->prefixes()->whereKey($prefix->id)->exists() && ($found === null || $prefix->length >= $found->length)) {
                    $found = $prefix;
                }
            }
        }

        return $found instanceof Prefix ? $this->json($this->answers()->whole($this->answers()->network($found))) : $this
            ->problem(404, "No network of the plan holds $net.");
    }

    public function domain(string $name): JsonResponse
    {
        try {
            $parsed = Name::parse(rtrim($name, '.').'.');
        } catch (Malformed $e) {
            return $this->problem(400, $e->getMessage());
        }
        $zone = $this->reach()->zones()->with(['view', 'keys.zone'])->where('zones.name', (string) $parsed->lower())->orderBy('view_id')
            ->first();

        return $zone === null
            ? $this->problem(404, 'The plan has no zone of this name.')
            : $this->json($this->answers()->whole($this->answers()->domain($zone)));
    }

    public function nameserver(string $name): JsonResponse
    {
        try {
            $parsed = Name::parse(rtrim($name, '.').'.');
        } catch (Malformed $e) {
            return $this->problem(400, $e->getMessage());
        }
        $known = $this->reach()->records()->where('type', \HarborPost\Core\Dns\RecordType::NS)->where('data', (string) $parsed->lower())
            ->exists();

        return $known
            ? $this->json($this->answers()->whole($this->answers()->nameserver((string) $parsed)))
            : $this->problem(404, 'No zone of the plan names this server.');
    }

    public function entity(string $handle): JsonResponse
    {
        $query = $this->reach()->ofNoun(Tenant::noun());
        $tenant = $query?->find($handle) ?? $query?->find((new Picks($this->reach()))->meant(Tenant::class, $handle)[0]['id'] ?? '');

        return $tenant instanceof Tenant
            ? $this->json($this->answers()->whole($this->answers()->entity($tenant)))
            : $this->problem(404, 'The plan has no such entity.');
    }

    public function search(Request $request, string $kind): JsonResponse
    {
        $word = ['domains' => 'name', 'nameservers' => 'name', 'entities' => 'fn'][$kind];
        $pattern = $request->string($word)->toString();
        if (strlen(str_replace('*', '', $pattern)) < 2 || substr_count($pattern, '*') > 1 || preg_match('/[^\x20-\x7e]/', $pattern) === 1) {
            return $this->problem(400, "Search by $word with two letters or more and one asterisk at most.");
        }
        $answers = $this->answers();

        return $this->json($answers->whole(match ($kind) {
            'domains' => $answers->domains($pattern),
            'nameservers' => $answers->nameservers($pattern),
            default => $answers->entities($pattern),
        }));
    }

    private function answers(): Answers
    {
        return new Answers($this->reach(), dirname(url(at('rdap.help'))));
    }

    /** @param  array<string, mixed>  $body */
    private function json(array $body, int $status = 200): JsonResponse
    {
        return new JsonResponse(
            $body,
            $status,
            ['Content-Type' => 'application/rdap+json'],
            JSON_UNESCAPED_SLASHES | JSON_INVALID_UTF8_SUBSTITUTE,
        );
    }

    private function problem(int $status, string $says): JsonResponse
    {
        return $this->json([
            'rdapConformance' => ['rdap_level_0'], 'errorCode' => $status, 'title' => $status === 404 ? 'Not found' : 'Bad request',
            'description' => [$says],
        ], $status);
    }
}
