<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Schema;

/**
 * What keeps the truth whole when several write at once: guard rows, foreign keys, and what each server was last found to run.
 * Rows that an older database has orphaned are named and mended before the keys are set.
 */
return new class extends Migration
{
    /**
     * Child table, column, parent table, what happens to the child: restrict (the parent cannot go), cascade (an index or a measurement
     * goes with it), null (it stays without).
     */
    private const KEYS = [
        ['prefixes', 'space_id', 'spaces', 'restrict'],
        ['prefixes', 'parent_id', 'prefixes', 'restrict'],
        ['prefixes', 'site_id', 'sites', 'restrict'],
        ['prefixes', 'tenant_id', 'tenants', 'restrict'], ['prefixes', 'vlan_id', 'vlans', 'restrict'],
        ['open_blocks', 'parent_id', 'prefixes', 'cascade'],
        ['prefix_tags', 'prefix_id', 'prefixes', 'cascade'],
        ['use_samples', 'prefix_id', 'prefixes', 'cascade'],
        ['forecasts', 'prefix_id', 'prefixes', 'cascade'],
        ['favourites', 'prefix_id', 'prefixes', 'cascade'],
        ['favourites', 'person_id', 'people', 'cascade'],
        ['held_runs', 'prefix_id', 'prefixes', 'restrict'],
        ['addresses', 'prefix_id', 'prefixes', 'restrict'],
        ['addresses', 'space_id', 'spaces', 'restrict'],
        ['addresses', 'device_id', 'devices', 'restrict'],
        ['sites', 'parent_id', 'sites', 'restrict'],
        ['devices', 'site_id', 'sites', 'restrict'],
        ['servers', 'site_id', 'sites', 'restrict'],
        ['layer2_domains', 'site_id', 'sites', 'restrict'],
        ['vlans', 'domain_id', 'layer2_domains', 'restrict'],
        ['switch_vlans', 'domain_id', 'layer2_domains', 'cascade'],
        ['people', 'tenant_id', 'tenants', 'restrict'],
        ['drafts', 'person_id', 'people', 'restrict'],
        ['draft_edits', 'draft_id', 'drafts', 'cascade'],
        ['zones', 'view_id', 'views', 'restrict'], ['zones', 'tenant_id', 'tenants', 'restrict'],
        ['zone_servers', 'zone_id', 'zones', 'restrict'], ['zone_servers', 'server_id', 'servers', 'restrict'],
        ['records', 'zone_id', 'zones', 'restrict'],
        ['records', 'address_id', 'addresses', 'restrict'],
        ['record_changes', 'zone_id', 'zones', 'restrict'],
        ['name_grants', 'person_id', 'people', 'restrict'], ['name_grants', 'zone_id', 'zones', 'restrict'],
        ['scopes', 'prefix_id', 'prefixes', 'restrict'],
        ['scope_ranges', 'scope_id', 'scopes', 'restrict'],
        ['scope_ranges', 'server_id', 'servers', 'restrict'],
        ['scope_exclusions', 'scope_id', 'scopes', 'restrict'],
        ['scope_servers', 'scope_id', 'scopes', 'restrict'],
        ['scope_servers', 'server_id', 'servers', 'restrict'],
        ['reservations', 'scope_id', 'scopes', 'restrict'], ['reservations', 'address_id', 'addresses', 'null'],
        ['leases', 'server_id', 'servers', 'cascade'], ['leases', 'scope_id', 'scopes', 'null'],
        ['import_rows', 'import_id', 'imports', 'cascade'],
        ['shipments', 'server_id', 'servers', 'cascade'],
        ['scans', 'space_id', 'spaces', 'cascade'],
        ['scan_results', 'scan_id', 'scans', 'cascade'], ['sweep_findings', 'sweep_id', 'sweeps', 'cascade'],
    ];

    /** Rows that only lose the link when what they name is gone; all others cannot be without it. */
    private const MAY_LOSE = [
        'prefixes.site_id', 'prefixes.tenant_id', 'prefixes.vlan_id', 'addresses.device_id', 'sites.parent_id', 'devices.site_id',
        'servers.site_id', 'layer2_domains.site_id', 'people.tenant_id', 'zones.tenant_id', 'records.address_id',
        'reservations.address_id', 'leases.scope_id', 'prefixes.parent_id',
    ];

    public function up(): void
    {
        Schema::create('guards', function (Blueprint $t): void {
            $t->unsignedSmallInteger('id')->primary();
            $t->unsignedBigInteger('n')->default(0);
        });
        DB::statement('INSERT INTO guards (id) SELECT seq FROM seq_0_to_65535');
        Schema::table('people', function (Blueprint $t): void {
            $t->unsignedInteger('epoch')->default(1); // raised when all sessions of the person end
            $t->boolean('must_change')->default(false); // the password is for one sign-in
        });
        Schema::table('history', function (Blueprint $t): void {
            $t->string('reason')->nullable(); // why in spite of a warning
            $t->index('at');
            $t->index(['person_id', 'id']);
        });
        Schema::table('leases', function (Blueprint $t): void {
            $t->binary('mac', 6)->nullable()->change(); // a declined address belongs to nobody
            $t->dateTime('gone_at')->nullable(); // when the server was first found not to have it any more
            $t->index(['server_id', 'gone_at']);
        });
        Schema::create('server_states', function (Blueprint $t): void {
            $t->char('server_id', 26)->charset('ascii')->primary();
            $t->dateTime('compared_at')->nullable(); // when its running state was last read and compared
            $t->unsignedInteger('compared')->default(0); // objects
            $t->unsignedInteger('differing')->default(0);
            $t->string('problem', 500)->nullable(); // why that was not possible
            $t->dateTime('problem_since')->nullable();
            $t->dateTime('leases_read_at')->nullable();
            $t->unsignedInteger('leases')->default(0);
            $t->string('leases_problem', 500)->nullable();
            $t->json('leases_log')->nullable(); // of the last reading: added, changed, same, ended, refused
            $t->foreign('server_id')->references('id')->on('servers')->cascadeOnDelete();
        });
        Schema::create('drifts', function (Blueprint $t): void {
            $t->id();
            $t->char('server_id', 26)->charset('ascii');
            $t->string('kind', 10);
            $t->string('object_id', 64)->charset('ascii');
            $t->string('title');
            $t->string('state', 12);
            $t->json('removed');
            $t->json('added');
            $t->unsignedInteger('removed_count');
            $t->unsignedInteger('added_count');
            $t->dateTime('found_at');
            $t->unique(['server_id', 'kind', 'object_id']);
            $t->index(['kind', 'object_id']);
            $t->foreign('server_id')->references('id')->on('servers')->cascadeOnDelete();
        });
        Schema::table('imports', function (Blueprint $t): void {
            $t->json('mapping')->nullable(); // heading of the file → column of ours
            $t->string('format')->default(''); // what the file was recognised as
        });
        Schema::table('import_rows', function (Blueprint $t): void {
            $t->json('result')->nullable(); // what taking over does; the payload stays what was read, so that judging can begin again
        });
        Schema::table('shipments', function (Blueprint $t): void {
            $t->json('orders')->nullable(); // only, deep, removals, and the digest of what was shown
            $t->unsignedInteger('total')->nullable(); // objects that it ships; null until it is known
            $t->string('message', 500)->default('');
        });
        Schema::create('column_maps', function (Blueprint $t): void {
            $t->string('name', 60)->primary();
            $t->json('mapping');
            $t->char('person_id', 26)->charset('ascii')->nullable();
        });
        $this->mend();
        foreach (self::KEYS as [$table, $column, $parent, $then]) {
            Schema::table($table, function (Blueprint $t) use ($column, $parent, $then): void {
                $key = $t->foreign($column)->references('id')->on($parent);
                match ($then) {
                    'cascade' => $key->cascadeOnDelete(),
                    'null' => $key->nullOnDelete(),
                    default => $key->restrictOnDelete(),
                };
            });
        }
    }

    /** Until nothing is orphaned any more: what is mended may orphan what hung on it. */
    private function mend(): void
    {
        do {
            $mended = 0;
            foreach (self::KEYS as [$table, $column, $parent]) {
                $loses = in_array("$table.$column", self::MAY_LOSE, true);
                $orphans = "c.$column IS NOT NULL AND NOT EXISTS (SELECT 1 FROM $parent AS p WHERE p.id = c.$column)";
                $n = (int) DB::scalar("SELECT COUNT(*) FROM $table AS c WHERE $orphans");
                if ($n === 0) {
                    continue;
                }
                $loses
                    ? DB::statement("UPDATE $table AS c SET c.$column = NULL WHERE $orphans")
                    : DB::statement("DELETE c FROM $table AS c WHERE $orphans");
                fwrite(
                    STDOUT,
                    sprintf(
                        "  %d rows of %s named one of %s that is gone: %s\n",
                        $n,
                        $table,
                        $parent,
                        $loses ? 'they stand without it now' : 'they were removed',
                    ),
                );
                $mended += $n;
            }
        } while ($mended > 0);
    }
};
