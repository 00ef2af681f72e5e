<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Schema;

return new class extends Migration
{
    public function up(): void
    {
        Schema::table('zones', fn (Blueprint $t) => $t->json('cached_ttls')->nullable()->after('unsign_seen'));
        // Of before nothing is known but what is served now.
        DB::statement(<<<'SQL'
            UPDATE zones JOIN signing_policies p ON p.id = zones.policy_id
            SET cached_ttls = JSON_OBJECT(
                'zone', JSON_ARRAY(JSON_ARRAY(GREATEST(default_ttl, negative_ttl, COALESCE((
                    SELECT MAX(r.ttl) FROM records r WHERE r.zone_id = zones.id
                ), 0)), NULL)),
                'keys', JSON_ARRAY(JSON_ARRAY(p.key_ttl, NULL)),
                'ds', JSON_ARRAY(JSON_ARRAY(p.ds_ttl, NULL)))
            SQL);
    }

    public function down(): void
    {
        Schema::table('zones', fn (Blueprint $t) => $t->dropColumn('cached_ttls'));
    }
};
