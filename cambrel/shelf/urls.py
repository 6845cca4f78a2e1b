from django.urls import path

from cambrel.shelf.views import adverts, gear_choice, kits, lists, transfer

app_name = "shelf"
urlpatterns = [
    path("advert/", adverts.reader, name="reader"),
    path("advert/keep/", adverts.keep, name="keep"),
    path("shelf/", lists.shelf_home, name="home"),
    path("shelf/samples/remove/", lists.remove_all_samples, name="remove-samples"),
    path("shelf/pick/", gear_choice.pick, name="pick"),
    path("shelf/kits/<int:pk>/", kits.kit, name="kit"),
    path("shelf/kits/<int:pk>/pack/", kits.pack, name="pack"),
    path("shelf/import/", transfer.bring_in, name="import"),
    path("shelf/import/<str:key>.csv", transfer.template, name="template"),
    path("shelf/import/<int:pk>/", transfer.preview, name="preview"),
    path("shelf/import/<int:pk>/work/", transfer.work, name="work"),
    path("shelf/import/<int:pk>/apply/", transfer.apply_preview, name="apply"),
    path("shelf/import/<int:pk>/drop/", transfer.drop_preview, name="drop"),
    path("shelf/export/", transfer.take_out, name="export"),
    path("shelf/export/shelf.json", transfer.document, name="document"),
    path("shelf/export/<str:key>.csv", transfer.table, name="table"),
    path("shelf/<slug:kind_key>/", lists.records, name="list"),
    path("shelf/<slug:kind_key>/act/", lists.bulk, name="bulk"),
    path("shelf/<slug:kind_key>/new/", lists.edit, name="new"),
    path("shelf/<slug:kind_key>/<int:pk>/", lists.record, name="record"),
    path("shelf/<slug:kind_key>/<int:pk>/put/", lists.put, name="put"),
    path("shelf/<slug:kind_key>/<int:pk>/edit/", lists.edit, name="edit"),
]
