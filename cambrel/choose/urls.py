from django.urls import path

from cambrel.choose.views import choosing, keeping

app_name = "choose"
urlpatterns = [
    path("choose/", choosing.choose, name="choose"),
    path("choose/helping/", choosing.helping, name="helping"),
    path("choose/keep/", keeping.keep, name="keep"),
    path("choose/kept/<int:pk>/", keeping.kept, name="kept"),
    path("choose/kept/<int:pk>/forget/", keeping.forget, name="forget"),
]
