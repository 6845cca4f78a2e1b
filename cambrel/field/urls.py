from django.urls import path

from cambrel.field import counting, looking, returning, views

app_name = "field"
urlpatterns = [
    path("field/", views.sheets, name="sheets"),
    path("field/plan/", views.plan, name="plan"),
    path("field/keep/", views.keep, name="keep"),
    path("field/card/<int:pk>/", views.card, name="card"),
    path("field/worker.js", views.worker, name="worker"),
    path("field/<int:pk>/", views.sheet, name="sheet"),
    path("field/<int:pk>/take/", views.take, name="take"),
    path("field/<int:pk>/forget/", views.forget, name="forget"),
    path("field/habits/", counting.habits, name="habits"),
    path("field/habits/table/", counting.table, name="table"),
    path("field/habits/log/", counting.log, name="log"),
    path("field/habits/sample/", counting.sample, name="sample"),
    path("field/habits/clear/", counting.clear, name="clear"),
    path("field/heads/", returning.heads, name="any-heads"),
    path("field/<int:pk>/heads/", returning.heads, name="heads"),
    path("field/<int:pk>/back/", returning.back, name="back"),
    path("field/<int:pk>/bring/", returning.bring, name="bring"),
    path("field/<int:pk>/seen/<str:key>/", returning.seen, name="seen"),
    path("field/<int:pk>/simulate/<str:key>/", returning.simulate, name="simulate"),
    path("field/<int:pk>/place/<str:token>/", returning.place, name="place"),
    path("field/<int:pk>/picture/<str:token>/", looking.picture, name="picture"),
    path("field/<int:pk>/look/<str:token>/", looking.look, name="look"),
    path("field/<int:pk>/measure/", looking.all_measured, name="measure"),
    path("field/<int:pk>/keep/<str:token>/", looking.keep, name="keep-picture"),
    path("field/<int:pk>/take-over/<str:key>/", looking.take_over, name="take-over"),
]
