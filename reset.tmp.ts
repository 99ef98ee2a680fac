import { connect } from "./db/index";
const db = connect(process.env.DATABASE_URL!);
await db.run("DROP DATABASE IF EXISTS hound_it");
await db.run("CREATE DATABASE hound_it CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_ci");
await db.close();
